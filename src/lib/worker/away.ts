/** Work on a stranger's file in a worker of its own. It is ended when it says nothing for too long, or is not wanted any more. */

/** A worker that says nothing of itself for so long is ended, milliseconds. */
const SILENT_FOR = 10_000;
/** A worker that gets on says so this often at most. */
const BEATS_EVERY = 250;

/** What a worker says beside its answer: that it gets on. */
const BEAT = 'beat';

/** For the worker: called as it gets on, tells the page now and then. */
export function beating(): () => void {
	let last = 0;
	return () => {
		const now = performance.now();
		if (now - last < BEATS_EVERY) return;
		last = now;
		self.postMessage(BEAT);
	};
}

export interface AwayOptions {
	/** The file, as it is named in sentences. */
	name: string;
	/** Aborted, the worker is ended. Nobody waits for an answer then, and none comes. */
	signal?: AbortSignal;
}

/** What a worker answers to one request; then it is ended. Throws an error whose message is a sentence for the artist. */
export async function askAway<Answer>(
	worker: Worker,
	request: unknown,
	{ name, signal }: AwayOptions
): Promise<Answer> {
	if (signal?.aborted) {
		worker.terminate();
		return new Promise(() => {});
	}
	let timer: ReturnType<typeof setTimeout> | undefined;
	const end = () => worker.terminate();
	signal?.addEventListener('abort', end);
	try {
		return await new Promise<Answer>((done, failed) => {
			const listen = () => {
				clearTimeout(timer);
				timer = setTimeout(
					() =>
						failed(
							new Error(
								`${name} was read for ${SILENT_FOR / 1000} s without getting on, and was given up. It is damaged, or made to be slow. Save it again with the program that it comes from.`
							)
						),
					SILENT_FOR
				);
			};
			worker.onmessage = ({ data }: MessageEvent<Answer | typeof BEAT>) =>
				data === BEAT ? listen() : done(data);
			worker.onerror = () =>
				failed(new Error(`${name} could not be read: it takes more memory than there is, or is damaged.`));
			listen();
			signal?.addEventListener('abort', () => clearTimeout(timer));
			worker.postMessage(request);
		});
	} finally {
		clearTimeout(timer);
		signal?.removeEventListener('abort', end);
		worker.terminate();
	}
}
