// Runs a script in a thread, and ends it with a sentence where it does not get on or fills the memory.
import { Worker } from 'node:worker_threads';

const LISTENS_EVERY = 100;

/** Whether a file is read, and nothing of it evaluated yet. */
const isReading = (work) => work.startsWith('The reading');

/** @see watch.d.mts */
export function runWatched(script, args, { silentFor, mostMemory }) {
	const beats = new Int32Array(new SharedArrayBuffer(4));
	const worker = new Worker(script, {
		workerData: { args, beats },
		resourceLimits: { maxOldGenerationSizeMb: mostMemory }
	});
	let work = null;
	let told = '';
	let [heard, since] = [-1, Date.now()];
	const listening = setInterval(() => {
		const now = Atomics.load(beats, 0);
		if (!work || now !== heard) [heard, since] = [now, Date.now()];
		else if (Date.now() - since > 1000 * silentFor) {
			told = `${work} did not get on for ${silentFor} s and was ended. ${
				isReading(work)
					? 'The file is damaged, or made to be slow.'
					: 'A node hangs where it should not: please report it, with the file. Until then change what it works on.'
			}`;
			void worker.terminate();
		}
	}, LISTENS_EVERY);
	worker.on('message', (begun) => {
		work = begun;
		since = Date.now();
	});
	worker.on('error', (error) => {
		told =
			error.code === 'ERR_WORKER_OUT_OF_MEMORY'
				? `${work ?? 'This'} took more than ${mostMemory} MB of memory and was ended. ${
						!work || isReading(work)
							? 'The file is damaged, or made to fill it.'
							: 'Lower the counts, or take fewer frames at a time.'
					}`
				: `A fault of ours: ${error.stack}`;
	});
	return new Promise((done) =>
		worker.on('exit', (code) => {
			clearInterval(listening);
			done(told ? { code: 1, told } : { code, told: null });
		})
	);
}
