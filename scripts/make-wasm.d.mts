export const MODULES: string[];
export function compile(name: string): Buffer;
