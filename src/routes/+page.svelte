<script lang="ts">
	import { goto, preloadCode } from '$app/navigation';
	import { onMount } from 'svelte';
	import { DropdownMenu } from 'bits-ui';
	import Copy from '@lucide/svelte/icons/copy';
	import Download from '@lucide/svelte/icons/download';
	import EllipsisVertical from '@lucide/svelte/icons/ellipsis-vertical';
	import FilePlus2 from '@lucide/svelte/icons/file-plus-2';
	import FileUp from '@lucide/svelte/icons/file-up';
	import Moon from '@lucide/svelte/icons/moon';
	import Pencil from '@lucide/svelte/icons/pencil';
	import Search from '@lucide/svelte/icons/search';
	import Sun from '@lucide/svelte/icons/sun';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { toast } from 'svelte-sonner';
	import type { Sample } from '$lib/samples';
	import { samples } from '$lib/samples';
	import type { StoredGenerator } from '$lib/store/database';
	import { PICTURE_SAVED, dropUnreadAssets, listGenerators, loadGenerator } from '$lib/store/database';
	import type { Opened } from '$lib/store/files';
	import { deleteStored, duplicateStored, renameStored, undeleteStored } from '$lib/store/shelf';
	import LeftOutDialog from '$lib/ui/dialogs/LeftOutDialog.svelte';
	import { theme } from '$lib/ui/theme.svelte';

	let own = $state.raw<StoredGenerator[]>([]);
	let loaded = $state(false);
	let query = $state('');
	let renaming = $state<string | null>(null);
	let used = $state('');
	/** Opened files of which something was left out: each is told of in turn. */
	let told = $state.raw<{ file: string; original: Uint8Array; leftOut: readonly string[] }[]>([]);
	let picker = $state<HTMLInputElement>();
	const pictures = new WeakMap<Blob, string>();
	const urlOf = (blob: Blob) => {
		if (!pictures.has(blob)) pictures.set(blob, URL.createObjectURL(blob));
		return pictures.get(blob)!;
	};
	const matches = (name: string) => name.toLowerCase().includes(query.trim().toLowerCase());

	async function refresh() {
		try {
			own = await listGenerators();
		} catch (error) {
			toast.error(
				`The browser's storage cannot be read (${(error as Error).message}). Generators can still be built and saved as files.`
			);
		}
		loaded = true;
		const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {};
		used = quota ? `${(usage / 1e6).toFixed(1)} MB of ${(quota / 1e9).toFixed(0)} GB used` : '';
	}
	refresh()
		.then(dropUnreadAssets)
		.catch(() => {});
	// Once the Library stands, what opening needs is fetched, so that a click does not wait for it.
	onMount(() => {
		const timer = setTimeout(() => void makeReady(), 300);
		// A picture of the generator that was just left comes a little later.
		const late = () => void refresh();
		addEventListener(PICTURE_SAVED, late);
		return () => {
			clearTimeout(timer);
			removeEventListener(PICTURE_SAVED, late);
		};
	});

	/** What reads and writes files brings the whole core with it; the Library shows without. */
	const loadFiles = () => import('$lib/store/files');

	/** What Build needs: its script, the core, a worker, and the graphics, each a little after the other. */
	async function makeReady() {
		await loadFiles();
		await preloadCode('/build/x');
		(await import('$lib/worker/client')).warmWorker();
		await (await import('$lib/viewport/spare')).warmView();
	}

	/** Opens a new generator in Build, or says why it cannot. */
	async function create(make: () => Promise<Opened>) {
		try {
			const opened = await make();
			await goto(`/build/${await (await loadFiles()).store(opened, true)}`);
		} catch (error) {
			toast.error(`This could not be opened (${(error as Error).message}). Try again in a moment.`);
		}
	}
	const openEmpty = () => create(async () => (await loadFiles()).emptyGenerator());
	const openSample = ({ name, file }: Sample) =>
		create(async () => {
			const [{ openPacked }, answer] = await Promise.all([loadFiles(), fetch(file)]);
			if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
			return openPacked(new Uint8Array(await answer.arrayBuffer()), name);
		});

	/** Does something to one of them; what could not be done is told in a sentence. */
	async function act({ name }: StoredGenerator, work: () => Promise<string | null>) {
		try {
			const trouble = await work();
			if (trouble) toast.error(`“${name}”: ${trouble}`);
		} catch (error) {
			toast.error(`“${name}”: this could not be done (${(error as Error).message}). Try again in a moment.`);
		}
		await refresh();
	}
	const duplicate = (one: StoredGenerator) => act(one, () => duplicateStored(one.id));
	function rename(one: StoredGenerator, name: string) {
		renaming = null;
		if (name.trim() && name !== one.name) void act(one, () => renameStored(one.id, name));
	}
	const remove = (one: StoredGenerator) =>
		act(one, async () => {
			const taken = await deleteStored(one.id);
			if (typeof taken === 'string') return taken;
			if (!taken) return null;
			toast(`“${taken.name}” was deleted.`, {
				duration: 10_000,
				action: { label: 'Undo', onClick: () => act(taken, () => undeleteStored(taken)) }
			});
			return null;
		});
	const saveAsFile = (one: StoredGenerator) =>
		act(one, async () => {
			const now = await loadGenerator(one.id);
			if (!now) return 'It is not there any more.';
			await (await loadFiles()).downloadGenerator(now.document);
			return null;
		});
	async function importFiles(files: Iterable<File>) {
		for (const file of files)
			try {
				const { importGenerator } = await loadFiles();
				const { name, leftOut, original } = await importGenerator(file);
				if (leftOut.length) told = [...told, { file: file.name, original, leftOut }];
				else toast.success(`“${name}” was imported.`);
			} catch (error) {
				toast.error(`${file.name}: ${(error as Error).message}`, { duration: 15_000 });
			}
		await refresh();
	}
</script>

<svelte:head><title>Library – Embrell</title></svelte:head>

<main
	class="mx-auto max-w-6xl px-6 pb-16"
	ondragover={(event) => event.preventDefault()}
	ondrop={(event) => {
		event.preventDefault();
		importFiles(event.dataTransfer?.files ?? []);
	}}
>
	<header class="flex flex-wrap items-center gap-3 py-6">
		<img src="/icon.svg" alt="" width="36" height="36" />
		<h1 class="text-2xl">Embrell</h1>
		<span class="flex-1"></span>
		<label class="relative"
			><Search size={15} class="absolute top-2 left-2 text-quiet" /><input
				class="field w-52 py-1 pl-7"
				type="search"
				placeholder="Find a generator"
				aria-label="Find a generator"
				bind:value={query}
			/></label
		>
		<button class="button" onclick={() => picker?.click()}><FileUp size={15} /> Import</button>
		<input
			bind:this={picker}
			type="file"
			class="sr-only"
			tabindex="-1"
			multiple
			accept=".json,.zip"
			aria-label="Generator files"
			onchange={(event) => {
				importFiles([...(event.currentTarget.files ?? [])]);
				event.currentTarget.value = '';
			}}
		/>
		<button class="button button-main" onclick={openEmpty}><FilePlus2 size={15} /> New generator</button>
		<button
			class="icon-button"
			aria-label={theme.current === 'dusk' ? 'Use the Paper theme' : 'Use the Dusk theme'}
			onclick={() => theme.toggle()}
			>{#if theme.current === 'dusk'}<Sun size={17} />{:else}<Moon size={17} />{/if}</button
		>
	</header>

	<section aria-label="Your generators">
		<h2 class="mb-3 text-lg">Your generators</h2>
		<ul class="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-5">
			{#each own.filter((one) => matches(one.name)) as one (one.id)}
				<li class="specimen">
					<a href="/build/{one.id}" aria-label="Open {one.name}">
						<span class="picture"
							>{#if one.picture}<img src={urlOf(one.picture)} alt="" />{/if}</span
						>
					</a>
					<div class="flex items-center gap-1 px-3 py-2">
						<div class="min-w-0 flex-1">
							{#if renaming === one.id}
								<!-- svelte-ignore a11y_autofocus -->
								<input
									class="field"
									aria-label="New name"
									value={one.name}
									autofocus
									onblur={(event) => rename(one, event.currentTarget.value)}
									onkeydown={(event) => {
										if (event.key === 'Enter') event.currentTarget.blur();
										if (event.key === 'Escape') renaming = null;
									}}
								/>
							{:else}
								<a class="block truncate font-head font-semibold" href="/build/{one.id}" title={one.name}
									>{one.name}</a
								>
							{/if}
							<p class="text-xs text-quiet">
								{one.document.graphs.main.nodes.length} nodes · {new Date(one.updated).toLocaleDateString(
									'en-GB',
									{ day: 'numeric', month: 'short', year: 'numeric' }
								)}
							</p>
						</div>
						<DropdownMenu.Root>
							<DropdownMenu.Trigger class="icon-button" aria-label="What to do with {one.name}"
								><EllipsisVertical size={16} /></DropdownMenu.Trigger
							>
							<DropdownMenu.Portal>
								<DropdownMenu.Content class="menu" align="end">
									<DropdownMenu.Item class="menu-item" onSelect={() => setTimeout(() => (renaming = one.id))}
										><Pencil size={14} /> Rename</DropdownMenu.Item
									>
									<DropdownMenu.Item class="menu-item" onSelect={() => duplicate(one)}
										><Copy size={14} /> Duplicate</DropdownMenu.Item
									>
									<DropdownMenu.Item class="menu-item" onSelect={() => saveAsFile(one)}
										><Download size={14} /> Save as a file</DropdownMenu.Item
									>
									<DropdownMenu.Item class="menu-item text-plum" onSelect={() => remove(one)}
										><Trash2 size={14} /> Delete</DropdownMenu.Item
									>
								</DropdownMenu.Content>
							</DropdownMenu.Portal>
						</DropdownMenu.Root>
					</div>
				</li>
			{:else}
				{#if loaded}<li class="col-span-full text-quiet">
						{query
							? `None of yours is called “${query}”.`
							: 'None yet. Make a new one, or open a sample below and change it: the change is kept here.'}
					</li>{/if}
			{/each}
		</ul>
	</section>

	<section aria-label="Samples" class="mt-10">
		<h2 class="mb-3 text-lg">Samples from Saltreed</h2>
		<ul class="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-5">
			{#each samples.filter((one) => matches(one.name)) as sample (sample.id)}
				<li class="specimen">
					<button
						class="block w-full text-left"
						aria-label="Open {sample.name}"
						onclick={() => openSample(sample)}
					>
						<span class="picture"><img src={sample.picture} alt="" /></span>
						<span class="block px-3 pt-2 font-head font-semibold">{sample.name}</span>
						<span class="block px-3 pb-3 text-xs text-quiet">{sample.about}</span>
					</button>
				</li>
			{/each}
		</ul>
	</section>
	<p class="mt-10 text-xs text-quiet">Everything is kept in this browser. {used}</p>
</main>

{#if told.length}
	{#key told[0]}
		<LeftOutDialog
			{...told[0]}
			onsave={async (original, file) =>
				(await loadFiles()).download(original, file, 'application/octet-stream')}
			onclose={() => (told = told.slice(1))}
		/>
	{/key}
{/if}

<style>
	.specimen {
		border: 1px solid var(--line);
		background: var(--sheet);
		border-radius: 3px;
		box-shadow: 0 1px 3px rgb(0 0 0 / 0.07);
	}
	.specimen:hover {
		border-color: var(--quiet);
	}
	.picture {
		display: block;
		aspect-ratio: 400 / 260;
		margin: 8px 8px 0;
		background: var(--ground);
		overflow: hidden;
	}
	.picture img {
		width: 100%;
		height: 100%;
		object-fit: cover;
	}
</style>
