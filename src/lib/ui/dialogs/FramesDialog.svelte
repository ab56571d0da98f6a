<script lang="ts">
	import { Dialog } from 'bits-ui';
	import Download from '@lucide/svelte/icons/download';
	import { onDestroy, untrack } from 'svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import Tick from '$lib/ui/fields/Tick.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import { FramesExport, WAYS } from './frames-export.svelte';

	let { editor, onclose }: { editor: Editor; onclose: () => void } = $props();
	const frames = untrack(() => new FramesExport(editor));
	onDestroy(frames.close);

	async function run() {
		if (await frames.run()) onclose();
	}
	const inSeconds = (count: number) => `${(count / frames.frames.rate).toFixed(2)} s`;
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-50 bg-black/30" />
		<Dialog.Content class="menu fixed top-24 left-1/2 w-[26rem] -translate-x-1/2 p-4">
			<Dialog.Title class="mb-1 text-lg">Export frames of “{editor.document.name}”</Dialog.Title>
			<Dialog.Description class="mb-3 text-sm text-quiet"
				>Each frame is worked out as it is in Build, one after another.</Dialog.Description
			>
			<fieldset class="contents" disabled={frames.working}>
				<div class="mb-3 flex items-center gap-2">
					<label class="flex items-center gap-2"
						>Frames <input
							{@attach selectAll}
							class="field w-20 text-right font-mono"
							type="number"
							aria-label="From frame"
							bind:value={frames.first}
						/></label
					>
					<label class="flex items-center gap-2"
						>to <input
							{@attach selectAll}
							class="field w-20 text-right font-mono"
							type="number"
							aria-label="To frame"
							bind:value={frames.last}
						/></label
					>
					<span class="text-xs text-quiet"
						>{frames.why === null ? `${frames.count} frames, ${inSeconds(frames.count)}` : ''}</span
					>
				</div>
				<fieldset class="mb-3 space-y-1">
					<legend class="mb-1 font-semibold">As</legend>
					{#each WAYS as { id, label } (id)}
						<label class="flex items-center gap-2"
							><input type="radio" class="accent-teal" bind:group={frames.way} value={id} /> {label}</label
						>
					{/each}
				</fieldset>
				{#if frames.isDrawn}
					<span class="mb-2 flex items-center justify-between gap-3"
						>Seen through<Choice
							class="w-56 text-[13px]"
							label="Seen through"
							value={frames.camera}
							options={frames.cameras}
							onchange={(camera) => (frames.camera = camera)}
						/></span
					>
					<div class="mb-2 grid grid-cols-2 gap-3">
						<label
							>Width, pixels<input
								{@attach selectAll}
								class="field font-mono"
								type="number"
								bind:value={frames.width}
							/></label
						>
						<label
							>Height, pixels<input
								{@attach selectAll}
								class="field font-mono"
								type="number"
								bind:value={frames.height}
							/></label
						>
					</div>
					<div class="mb-3 space-y-1">
						<label class="flex items-center gap-2"
							><Tick checked={frames.refined} onchange={(on) => (frames.refined = on)} /> Refined: softer shadows
							and edges, four times as slow</label
						>
						{#if frames.chosen.as === 'pictures'}
							<label class="flex items-center gap-2"
								><Tick checked={frames.transparent} onchange={(on) => (frames.transparent = on)} /> Transparent
								background</label
							>
						{/if}
					</div>
				{/if}
			</fieldset>
			{#if frames.why}<p class="mb-3 text-sm text-plum" role="alert">{frames.why}</p>{/if}
			{#if frames.working}
				<div class="mb-3" role="status">
					<div class="mb-1 h-1.5 rounded-full bg-line">
						<div
							class="h-full rounded-full bg-teal"
							style:width="{(100 * frames.done) / frames.count}%"
						></div>
					</div>
					<span class="text-xs text-quiet"
						>{frames.done} of {frames.count} frames{frames.left === null
							? ''
							: `, about ${Math.ceil(frames.left)} s left`}</span
					>
				</div>
			{/if}
			<div class="flex items-center justify-end gap-2">
				{#if frames.working}
					<button class="button" onclick={frames.stop}>Stop and keep what is made</button>
				{:else}
					<Dialog.Close class="button">Cancel</Dialog.Close><button
						class="button button-main"
						disabled={frames.why !== null}
						onclick={run}><Download size={15} /> Export {frames.count} frames</button
					>
				{/if}
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
