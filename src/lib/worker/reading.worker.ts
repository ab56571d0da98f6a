/** Reads one file once, away from the page, to see what it is; then it is done. */
import { hashBytes } from '$core/formats/index';
import { Ledger } from '$core/geometry/index';
import { unpackObj } from '$core/formats/obj-package';
import { readingOf } from '$core/session/imports';
import { openPacked } from '$lib/store/opened';
import { beating } from './away';
import type { ReadAnswer, ReadRequest } from './reading';

const poll = beating();

function answerTo({ wants, file, given }: ReadRequest, bytes: Uint8Array): ReadAnswer {
	if (wants === 'generator') return { kind: 'generator', ...openPacked(bytes, file.name) };
	// An OBJ in a ZIP is read as itself, with its materials.
	const read = unpackObj(bytes, file.name) ?? { name: file.name, bytes };
	return { kind: 'node', ...readingOf(read, given), ...read, hash: hashBytes(read.bytes) };
}

self.onmessage = async ({ data }: MessageEvent<ReadRequest>): Promise<void> => {
	let answer: ReadAnswer;
	try {
		const bytes = new Uint8Array(await data.file.arrayBuffer());
		// The memory that reading takes goes with this worker.
		answer = new Ledger({ poll }).work(() => answerTo(data, bytes));
	} catch (error) {
		answer = { kind: 'refused', message: (error as Error).message };
	}
	const moved = answer.kind === 'node' ? [answer] : answer.kind === 'generator' ? answer.assets : [];
	self.postMessage(answer, { transfer: [...new Set(moved.map(({ bytes }) => bytes.buffer))] });
};
