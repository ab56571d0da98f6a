export const MODULES: readonly string[];
export function compile(name: string): Buffer;
export function madeFrom(): string;
