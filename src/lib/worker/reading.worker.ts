/** Reads one file once, away from the page, to see what it is; then it is done. */
import { Ledger, hashBytes } from '$core/index';
import { readingOf } from '$core/session/imports';
import type { ReadAnswer, ReadRequest } from './reading';

self.onmessage = ({ data: { file, wanted } }: MessageEvent<ReadRequest>): void => {
	let answer: ReadAnswer;
	try {
		// The memory that reading takes goes with this worker.
		const reading = new Ledger().work(() => readingOf(file, wanted));
		answer = { kind: 'read', ...reading, hash: hashBytes(file.bytes), bytes: file.bytes };
	} catch (error) {
		answer = { kind: 'refused', message: (error as Error).message };
	}
	self.postMessage(answer, answer.kind === 'read' ? { transfer: [file.bytes.buffer] } : undefined);
};
