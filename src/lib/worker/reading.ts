/** Reads a file in a worker of its own, so that neither the page nor an evaluation waits for it, or hangs where it does. */
import { LARGEST_FILE } from '$core/formats/index';
import { formatBytes } from '$core/geometry/index';
import type { Reading } from '$core/session/imports';
import { LARGEST_PACKAGE } from '$core/formats/package-file';
import type { Opened } from '$lib/store/opened';
import { askAway } from './away';

export interface ReadRequest {
	/** What is asked: the node that reads it, or the generator that it is. */
	wants: 'node' | 'generator';
	file: File;
	/** The kind of node that the file was given to; null for one dropped on the graph. */
	given: string | null;
}
export interface FileRead extends Reading {
	/** Of an OBJ in a ZIP its own. */
	name: string;
	hash: string;
	bytes: Uint8Array;
}
export type ReadAnswer =
	({ kind: 'node' } & FileRead) | ({ kind: 'generator' } & Opened) | { kind: 'refused'; message: string };

async function read(request: ReadRequest, most: number, signal?: AbortSignal): Promise<ReadAnswer> {
	const { name, size } = request.file;
	// Before any memory is taken.
	if (size > most)
		throw new Error(
			`${name} has ${formatBytes(size)}; at most ${formatBytes(most)} are read. Reduce it first.`
		);
	const worker = new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module' });
	const answer = await askAway<ReadAnswer>(worker, request, { name, signal });
	if (answer.kind === 'refused') throw new Error(answer.message);
	return answer;
}

/**
 * The bytes of a file, its digest, the node that reads it and the settings that go with it.
 * @param given the kind of node that the file was given to; null for one dropped on the graph.
 * Throws an error whose message is a sentence for the artist.
 */
export async function readFile(file: File, given: string | null, signal?: AbortSignal): Promise<FileRead> {
	return (await read({ wants: 'node', file, given }, LARGEST_FILE, signal)) as FileRead;
}

/** A generator unpacked, with what was left out of it. Throws an error whose message is a sentence for the artist. */
export async function openFile(file: File, signal?: AbortSignal): Promise<Opened> {
	return (await read(
		{ wants: 'generator', file, given: null },
		LARGEST_PACKAGE,
		signal
	)) as unknown as Opened;
}
