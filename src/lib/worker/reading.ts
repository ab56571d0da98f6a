/** Reads a file in a worker of its own, so that neither the page nor an evaluation waits for it. */
import { LARGEST_FILE, formatBytes } from '$core/index';
import type { Reading } from '$core/session/imports';

export interface ReadRequest {
	file: { name: string; bytes: Uint8Array };
	wanted: string | null;
}
export interface FileRead extends Reading {
	hash: string;
	bytes: Uint8Array;
}
export type ReadAnswer = ({ kind: 'read' } & FileRead) | { kind: 'refused'; message: string };

/**
 * The bytes of a file, its digest, the node that reads it and the settings that go with it.
 * @param wanted the kind of node that the file was given to; null for one dropped on the graph.
 * Throws an error whose message is a sentence for the artist.
 */
export async function readFile(file: File, wanted: string | null): Promise<FileRead> {
	// Before any memory is taken.
	if (file.size > LARGEST_FILE)
		throw new Error(
			`${file.name} has ${formatBytes(file.size)}; at most ${formatBytes(LARGEST_FILE)} are read. Reduce it first.`
		);
	const bytes = new Uint8Array(await file.arrayBuffer());
	const worker = new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module' });
	try {
		const answer = await new Promise<ReadAnswer>((done, failed) => {
			worker.onmessage = ({ data }: MessageEvent<ReadAnswer>) => done(data);
			worker.onerror = () => failed(new Error(`${file.name} could not be read.`));
			const request: ReadRequest = { file: { name: file.name, bytes }, wanted };
			worker.postMessage(request, [bytes.buffer]);
		});
		if (answer.kind === 'refused') throw new Error(answer.message);
		return answer;
	} finally {
		worker.terminate();
	}
}
