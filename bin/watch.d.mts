export interface Limits {
	/** Seconds after which a thread that does not get on, while it says that it does something, is ended. */
	silentFor: number;
	/** Megabytes that it may keep beside columns. */
	mostMemory: number;
}
/**
 * @param script gets `workerData` of `args` and `beats`, whose first word it counts up as it gets on; it posts what it does,
 * as a sentence begins, or null.
 * @returns its exit code; 1 and a sentence where it was ended.
 */
export function runWatched(
	script: URL,
	args: readonly string[],
	limits: Limits
): Promise<{ code: number; told: string | null }>;
