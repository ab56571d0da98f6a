export function bundleCli(): Promise<void>;
