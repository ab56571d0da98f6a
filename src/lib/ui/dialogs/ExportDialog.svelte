<script lang="ts">
	import Tick from '$lib/ui/fields/Tick.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import { Dialog } from 'bits-ui';
	import Download from '@lucide/svelte/icons/download';
	import { toast } from 'svelte-sonner';
	import { asksForDetail, resultNode } from '$core/engine/index';
	import { attributeName } from '$core/formats/index';
	import { formatBytes } from '$core/geometry/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { download, fileName } from '$lib/store/files';
	import type { ExportOptions } from '$core/session/export';
	import type { AttributeInfo } from '$core/session/messages';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import { ExportChoice } from './export-choice.svelte';

	let { editor, onclose }: { editor: Editor; onclose: () => void } = $props();
	const choice = new ExportChoice();
	let weight = $state<number | null>(null);
	const hasDetails = $derived(asksForDetail(editor.document));
	let available = $state.raw<AttributeInfo[]>([]);
	let chosen = $state<{ name: string; as: string }[]>([]);
	let working = $state(false);
	const node = $derived(resultNode(editor.document));
	const report = $derived(node && editor.evaluation.reports.get(node.id));
	const ready = $derived(report?.state === 'fresh' || report?.state === 'bypassed');
	const TYPES = {
		glb: 'model/gltf-binary',
		usda: 'model/vnd.usda',
		obj: 'text/plain',
		ply: 'application/octet-stream'
	};
	const UNITS = [
		{ id: 'm', label: 'Metres' },
		{ id: 'cm', label: 'Centimetres' },
		{ id: 'mm', label: 'Millimetres' }
	];
	const UPS = [
		{ id: 'y', label: 'y' },
		{ id: 'z', label: 'z' }
	];
	const OWN = ['position', 'normal', 'orientation', 'scale', 'source', 'closed', 'uv', 'material', 'smooth'];

	$effect(() => {
		if (node)
			editor.evaluation.client.attributes(node.id).then(
				(found) =>
					(available = found.filter(
						({ name, kind, type }) =>
							kind !== 'whole' && kind !== 'edge' && type !== 'text' && !OWN.includes(name)
					)),
				() => {}
			);
	});
	function toggle(name: string) {
		chosen = chosen.some((one) => one.name === name)
			? chosen.filter((one) => one.name !== name)
			: [...chosen, { name, as: attributeName(name) }];
	}
	/** GLB and USD have copies, attributes, and metres with y up by their standards. */
	const keepsCopies = $derived(choice.format === 'glb' || choice.format === 'usda');
	const base = $derived(fileName(editor.document.name));
	const options = $derived<ExportOptions>({
		format: choice.format,
		flatten: choice.flatten,
		unit: choice.unit,
		up: choice.up,
		attributes: chosen.map(({ name, as }) => ({ name, as })),
		// An OBJ names the file of its materials, which lies beside it.
		name: choice.format === 'obj' ? base : editor.document.name
	});
	const details = $derived(choice.details && hasDetails);

	// What it will weigh, as it is chosen; only the newest answer counts.
	let asked = 0;
	$effect(() => {
		const wanted = $state.snapshot(options) as ExportOptions;
		const all = details;
		weight = null;
		if (!node || !ready || !isQuick(all)) return;
		const mine = ++asked;
		editor.evaluation.client.exportNode(node.id, wanted, { details: all, weigh: true }).then(
			({ weight: found }) => {
				if (mine === asked) weight = found;
			},
			() => {}
		);
	});

	/** Triangles of the result, where that is what the View shows. */
	const triangles = $derived(
		node && editor.shown.length === 1 && editor.shown[0] === node.id
			? (editor.evaluation.packet?.triangles ?? 0)
			: 0
	);
	/** Whether it is written in a moment: of a large result nobody waits for its weight. */
	function isQuick(all: boolean): boolean {
		const { points = 0, faces = 0, copies = 0 } = report?.counts ?? {};
		return points + faces + copies < (all ? 100_000 : 1_000_000);
	}

	async function run() {
		if (!node) return;
		working = true;
		try {
			const { files } = await editor.evaluation.client.exportNode(
				node.id,
				$state.snapshot(options) as ExportOptions,
				{ details }
			);
			for (const { name, bytes } of files) download(bytes, base + name, TYPES[options.format]);
			choice.remember();
			onclose();
		} catch (error) {
			toast.error((error as Error).message, { duration: 12_000 });
		}
		working = false;
	}
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-50 bg-black/30" />
		<Dialog.Content class="menu fixed top-24 left-1/2 w-[26rem] -translate-x-1/2 p-4">
			<Dialog.Title class="mb-1 text-lg">Export “{editor.document.name}”</Dialog.Title>
			<Dialog.Description class="mb-3 text-sm text-quiet"
				>{keepsCopies
					? 'Lengths are metres, y is up.'
					: 'As the program that opens it wants it.'}</Dialog.Description
			>
			<fieldset class="mb-3 space-y-1">
				<legend class="mb-1 font-semibold">Format</legend>
				<label class="flex items-center gap-2"
					><input type="radio" class="accent-teal" bind:group={choice.format} value="glb" /> GLB (glTF binary):
					mesh, copies, curves, points</label
				>
				<label class="flex items-center gap-2"
					><input type="radio" class="accent-teal" bind:group={choice.format} value="obj" /> OBJ with MTL: copies
					become faces</label
				>
				<label class="flex items-center gap-2"
					><input type="radio" class="accent-teal" bind:group={choice.format} value="usda" /> USD: mesh, copies,
					curves, points, materials</label
				>
				<label class="flex items-center gap-2"
					><input type="radio" class="accent-teal" bind:group={choice.format} value="ply" /> PLY: points, faces,
					colours of points; copies become faces</label
				>
			</fieldset>
			{#if keepsCopies}
				<label class="mb-3 flex items-start gap-2"
					><Tick class="mt-1" checked={choice.flatten} onchange={(on) => (choice.flatten = on)} /><span
						>Copies to mesh<span class="block text-xs text-quiet"
							>Writes each copy as faces of its own, for programs that cannot read instances.</span
						></span
					></label
				>
				{#if available.length}
					<fieldset class="mb-3 max-h-40 overflow-y-auto">
						<legend class="mb-1 font-semibold">Attributes, in the order chosen</legend>
						{#each available as { name, kind } (name)}
							{@const place = chosen.findIndex((one) => one.name === name)}
							<div class="flex items-center gap-2 py-0.5">
								<label class="flex min-w-0 flex-1 items-center gap-2"
									><Tick checked={place >= 0} onchange={() => toggle(name)} />
									<span class="truncate">{name}</span>
									<span class="text-xs text-quiet">{kind}</span></label
								>
								{#if place >= 0}<span class="text-xs text-quiet">{place + 1}.</span><input
										{@attach selectAll}
										class="field w-32 font-mono text-xs"
										aria-label="Name of {name} in the file"
										bind:value={chosen[place].as}
									/>{/if}
							</div>
						{/each}
					</fieldset>
				{/if}
			{/if}
			{#if !keepsCopies}
				<div class="mb-3 space-y-1">
					<span class="flex items-center justify-between gap-3"
						>Unit<Choice
							class="w-40 text-[13px]"
							label="Unit"
							value={choice.unit}
							options={UNITS}
							onchange={(unit) => (choice.unit = unit as 'm')}
						/></span
					>
					<span class="flex items-center justify-between gap-3"
						>Up axis<Choice
							class="w-40 text-[13px]"
							label="Up axis"
							value={choice.up}
							options={UPS}
							onchange={(up) => (choice.up = up as 'y')}
						/></span
					>
				</div>
			{/if}
			{#if hasDetails}
				<label class="mb-3 flex items-start gap-2"
					><Tick class="mt-1" checked={choice.details} onchange={(on) => (choice.details = on)} /><span
						>All levels of detail<span class="block text-xs text-quiet"
							>Three files: level 0 with all of it, 1 and 2 with less. Otherwise the level that is set.</span
						></span
					></label
				>
			{/if}
			{#if !ready}<p class="mb-3 text-sm text-plum" role="alert">
					{report?.error?.message ?? 'The graph has no result yet: add a Result and wire to it.'}
				</p>{/if}
			<p class="mb-2 min-h-4 text-right text-xs text-quiet" data-testid="weight">
				{[
					triangles
						? `${triangles.toLocaleString('en')} triangles${report?.counts?.copies ? ' with all copies' : ''}.`
						: '',
					weight === null ? '' : `File size: ${formatBytes(weight)}.`
				].join(' ')}
			</p>
			<div class="flex items-center justify-end gap-2">
				<button class="button" onclick={() => (editor.exporting = 'frames')}>Frames …</button>
				<Dialog.Close class="button">Cancel</Dialog.Close><button
					class="button button-main"
					disabled={!ready || working}
					onclick={run}
					><Download size={15} /> {working ? 'Writing …' : `Export ${choice.format.toUpperCase()}`}</button
				>
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
