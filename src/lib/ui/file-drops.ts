/** Files that are dropped on the page where nothing takes them: the screen that is open says what can be done with them. */
import { goto } from '$app/navigation';
import { resolve } from '$app/paths';
import { toast } from 'svelte-sonner';
import { WHAT_IS_READ, fileKind } from '$core/session/file-kinds';

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

/** Says what a file is where it is of no use, with the way to where it is; false where it may be of use. */
export function isOfNoUse(file: File): boolean {
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
