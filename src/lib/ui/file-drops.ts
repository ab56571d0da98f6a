/** Files that are dropped on the page where nothing takes them: the screen that is open says what can be done with them. */
import { goto } from '$app/navigation';
import { resolve } from '$app/paths';
import { toast } from 'svelte-sonner';
import { holdsObj } from '$core/formats/obj-package';
import { namesInZip } from '$core/formats/zip-names';
import { WHAT_IS_READ, fileKind, isArchive, isMaterialLibrary } from '$core/session/file-kinds';

type Taker = (files: readonly File[]) => unknown;
let taker: Taker | null = null;

/** From now on a screen takes what is dropped anywhere. Gives what ends that. */
export function takeDrops(take: Taker): () => void {
	taker = take;
	return () => {
		if (taker === take) taker = null;
	};
}

const bringsFiles = (event: DragEvent): boolean => !!event.dataTransfer?.types.includes('Files');

/** The browser would leave the page for a file that nobody takes. */
export function overPage(event: DragEvent): void {
	if (bringsFiles(event)) event.preventDefault();
}
export function dropOnPage(event: DragEvent): void {
	if (!bringsFiles(event) || event.defaultPrevented) return;
	event.preventDefault();
	const files = [...event.dataTransfer!.files];
	// A folder comes as no file.
	if (!files.length) toast.warning('Drop files, not a folder.');
	else if (taker) taker(files);
	else toast.warning(`Nothing here takes ${files[0].name}.`);
}

/**
 * Those of some files that nodes may read, each OBJ with the MTL files that came with it in one. Of the others it is said what
 * they are, with the way to where they are of use.
 */
export async function usable(files: readonly File[]): Promise<File[]> {
	const libraries = files.filter(({ name }) => isMaterialLibrary(name));
	const hasObj = files.some(({ name }) => /\.obj$/i.test(name));
	const kept: File[] = [];
	for (const file of files) {
		if (libraries.includes(file)) {
			if (!hasObj)
				toast.error(`${file.name} holds the materials of an OBJ. Drop it together with the OBJ.`, {
					duration: 15_000
				});
		} else if (libraries.length && /\.obj$/i.test(file.name))
			kept.push(new File([file, ...libraries.flatMap((library) => ['\n', library])], file.name));
		else if (isArchive(file.name) && holdsObj(await namesInZip(file))) kept.push(file);
		else if (!isOfNoUse(file)) kept.push(file);
	}
	return kept;
}

/** Says what a file is where it is of no use, with the way to where it is; false where it may be of use. */
function isOfNoUse(file: File): boolean {
	const kind = fileKind(file.name);
	if (kind === null)
		toast.error(`${file.name} is of a kind that is not read. ${WHAT_IS_READ}`, { duration: 15_000 });
	if (kind === 'generator')
		toast(`${file.name} is a generator. It opens beside this one, which stays as it is.`, {
			duration: 15_000,
			action: { label: 'Open it', onClick: () => void openGenerator(file) }
		});
	return kind === null || kind === 'generator';
}

/** Takes a generator into the Library and opens it. */
async function openGenerator(file: File): Promise<void> {
	const [{ store }, { openFile }, { whileReading }] = await Promise.all([
		import('$lib/store/files'),
		import('$lib/worker/reading'),
		import('$lib/editor/while-reading')
	]);
	try {
		const opened = await whileReading(file, (signal) => openFile(file, signal));
		const id = await store(opened, false);
		for (const sentence of opened.leftOut.slice(0, 3)) toast.warning(sentence, { duration: 12_000 });
		await goto(resolve('/build/[id]', { id }));
	} catch (error) {
		toast.error((error as Error).message, { duration: 15_000 });
	}
}
