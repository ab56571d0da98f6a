/** What the Library shows, and what can be done there. */
import { goto, preloadCode } from '$app/navigation';
import { toast } from 'svelte-sonner';
import { WHAT_IS_READ, fileKind } from '$core/session/file-kinds';
import type { Sample } from '$lib/samples';
import type { StoredGenerator } from '$lib/store/database';
import { PICTURE_SAVED, sweep, listGenerators, loadGenerator } from '$lib/store/database';
import type { Opened } from '$lib/store/opened';
import { deleteStored, duplicateStored, renameStored, undeleteStored } from '$lib/store/stored-generators';
import { storageTrouble } from '$lib/store/trouble';

/** What reads and writes files brings the whole core with it; the Library shows without. */
const loadFiles = () => import('$lib/store/files');

/** Milliseconds for which the Library stands before what Build needs is fetched, so that a click does not wait for it. */
const READY_AFTER = 500;

/** An opened file of which something was left out. */
export interface Told {
	file: string;
	original: File;
	leftOut: readonly string[];
}

export class Library {
	own = $state.raw<StoredGenerator[]>([]);
	isLoaded = $state(false);
	query = $state('');
	/** How much of the browser's storage is used. */
	used = $state('');
	/** Opened files of which something was left out: each is told of in turn. */
	told = $state.raw<readonly Told[]>([]);

	/** Aborted when the Library is left: no file is read any further. */
	#left = new AbortController();

	/** Whether something is called as is asked for. */
	matches(name: string): boolean {
		return name.toLowerCase().includes(this.query.trim().toLowerCase());
	}

	/** Reads what is kept, and makes ready what comes next. Gives what lets go of it. */
	open(): () => void {
		let timer: ReturnType<typeof setTimeout> | undefined;
		let isClosed = false;
		this.#left = new AbortController();
		this.#refresh()
			.then(() => sweep())
			.catch(() => {})
			.finally(() => {
				if (!isClosed) timer = setTimeout(() => void makeReady(), READY_AFTER);
			});
		// A picture of the generator that was just left comes a little later.
		const late = () => void this.#refresh();
		addEventListener(PICTURE_SAVED, late);
		return () => {
			isClosed = true;
			this.#left.abort();
			clearTimeout(timer);
			removeEventListener(PICTURE_SAVED, late);
		};
	}

	async #refresh(): Promise<void> {
		try {
			this.own = await listGenerators();
		} catch (error) {
			toast.error(
				`Generators can still be built and saved as files, but what is stored cannot be read. ${storageTrouble(error)}`
			);
		}
		this.isLoaded = true;
		const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {};
		this.used = quota ? `${(usage / 1e6).toFixed(1)} MB of ${(quota / 1e9).toFixed(0)} GB used` : '';
	}

	/** Opens a new generator in Build, or says why it cannot. */
	async #create(make: () => Promise<Opened>): Promise<void> {
		try {
			const [opened, { store, holdOpened }] = await Promise.all([make(), loadFiles()]);
			const id = await store(opened, true).catch((error: unknown) => {
				toast.warning(
					`It is kept only as long as this page is open: save it as a file. ${storageTrouble(error)}`,
					{
						duration: 12_000
					}
				);
				return holdOpened(opened);
			});
			await goto(`/build/${id}`);
		} catch (error) {
			toast.error(`This could not be opened (${(error as Error).message}). Try again in a moment.`);
		}
	}
	openEmpty = (): Promise<void> => this.#create(async () => (await loadFiles()).emptyGenerator());
	openSample = ({ id, name, file, picture }: Sample): Promise<void> =>
		this.#create(async () => {
			const [{ openPacked }, { withPictures }, answer, pictures, card] = await Promise.all([
				import('$lib/store/opened'),
				import('$lib/store/sample-pictures'),
				fetch(file),
				// It opens without them too.
				fetch(`/samples/${id}-presets.zip`).then(
					(found) => (found.ok ? found.arrayBuffer() : null),
					() => null
				),
				// In the browser's cache already, as its card is looked at.
				fetch(picture).then(
					(found) => (found.ok ? found.blob() : null),
					() => null
				)
			]);
			if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
			const opened = openPacked(new Uint8Array(await answer.arrayBuffer()), name);
			return { ...(pictures ? withPictures(opened, new Uint8Array(pictures)) : opened), picture: card };
		});

	/** Does something to one of them; what could not be done is told in a sentence. */
	async #act({ name }: StoredGenerator, work: () => Promise<string | null>): Promise<void> {
		try {
			const trouble = await work();
			if (trouble) toast.error(`“${name}”: ${trouble}`);
		} catch (error) {
			toast.error(`“${name}”: this could not be done. ${storageTrouble(error)}`);
		}
		await this.#refresh();
	}
	duplicate = (one: StoredGenerator): Promise<void> => this.#act(one, () => duplicateStored(one.id));
	rename(one: StoredGenerator, name: string): void {
		if (name.trim() && name !== one.name) void this.#act(one, () => renameStored(one.id, name));
	}
	remove = (one: StoredGenerator): Promise<void> =>
		this.#act(one, async () => {
			const taken = await deleteStored(one.id);
			if (typeof taken === 'string') return taken;
			if (!taken) return null;
			toast(`“${taken.name}” was deleted.`, {
				duration: 10_000,
				action: { label: 'Undo', onClick: () => this.#act(taken, () => undeleteStored(taken)) }
			});
			return null;
		});
	saveAsFile = (one: StoredGenerator): Promise<void> =>
		this.#act(one, async () => {
			const now = await loadGenerator(one.id);
			if (!now) return 'It is not there any more.';
			await (await loadFiles()).downloadGenerator(now.document);
			return null;
		});

	/** Reads generator files, away from the page, and keeps each under a new id. */
	async importFiles(files: Iterable<File>): Promise<void> {
		for (const file of files)
			try {
				if (fileKind(file.name) !== 'generator')
					throw new Error(
						`${file.name} is not a generator. ${fileKind(file.name) ? 'Open a generator, and drop it there.' : WHAT_IS_READ}`
					);
				const [{ store }, { openFile }, { whileReading }] = await Promise.all([
					loadFiles(),
					import('$lib/worker/reading'),
					import('$lib/editor/while-reading')
				]);
				const opened = await whileReading(file, (signal) => openFile(file, signal), this.#left.signal);
				await store(opened, false);
				const { document, leftOut } = opened;
				if (leftOut.length) this.told = [...this.told, { file: file.name, original: file, leftOut }];
				else toast.success(`“${document.name}” was imported.`);
			} catch (error) {
				const message = storageTrouble(error);
				toast.error(message.includes(file.name) ? message : `${file.name}: ${message}`, {
					duration: 15_000
				});
			}
		await this.#refresh();
	}
	async saveOriginal(original: File, file: string): Promise<void> {
		(await loadFiles()).download(original, file, 'application/octet-stream');
	}
	/** The first that was told of has been read. */
	closeTold(): void {
		this.told = this.told.slice(1);
	}
}

/** What Build needs: its script, the core, a worker, and the graphics, each a little after the other. */
async function makeReady(): Promise<void> {
	await loadFiles();
	await preloadCode('/build/x');
	(await import('$lib/worker/client')).warmWorker();
	await (await import('$lib/viewport/spare')).warmView();
}
