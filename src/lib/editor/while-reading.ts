/** What is said while a file is read, with a way to stop it. */
import { toast } from 'svelte-sonner';

/** Milliseconds after which it is said: most files are read before. */
const SAID_AFTER = 400;

/**
 * Does what reads a file; while that lasts, a notice says so.
 * @param left aborted when the page is left: nothing comes of it then.
 */
export async function whileReading<Result>(
	{ name }: File,
	work: (signal: AbortSignal) => Promise<Result>,
	left?: AbortSignal
): Promise<Result> {
	const own = new AbortController();
	const until = left ? AbortSignal.any([left, own.signal]) : own.signal;
	let news: string | number | undefined;
	const timer = setTimeout(() => {
		news = toast.loading(`${name} is being read …`, {
			duration: Infinity,
			closeButton: false,
			action: { label: 'Stop', onClick: () => own.abort() }
		});
	}, SAID_AFTER);
	const stopped = new Promise<never>((_, failed) =>
		own.signal.addEventListener('abort', () => failed(new Error(`The reading of ${name} was stopped.`)))
	);
	const done = () => {
		clearTimeout(timer);
		if (news !== undefined) toast.dismiss(news);
	};
	left?.addEventListener('abort', done);
	try {
		return await Promise.race([work(until), stopped]);
	} finally {
		done();
		left?.removeEventListener('abort', done);
	}
}
