// Runs the command line in a thread of its own, which its maker watches and may end.
import { parentPort, workerData } from 'node:worker_threads';
import { loadCli } from './load.mjs';

const { args, beats } = workerData;
process.exitCode = loadCli().main(args, {
	poll: () => void Atomics.add(beats, 0, 1),
	begins: (work) => parentPort.postMessage(work)
});
