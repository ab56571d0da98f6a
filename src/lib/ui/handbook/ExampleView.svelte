<script lang="ts">
	import { untrack } from 'svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { theme } from '$lib/ui/theme.svelte';
	import { backgroundIn } from '$lib/viewport/backgrounds';
	import HeatLegend from '$lib/ui/view/HeatLegend.svelte';
	import { USUAL_LIGHT } from '$lib/viewport/light';
	import type { ViewScene } from '$lib/viewport/scene';
	import { giveBackView, takeView } from '$lib/viewport/spare';

	let { editor, label }: { editor: Editor; label: string } = $props();

	let around = $state<HTMLElement>();
	let scene = $state.raw<ViewScene>();
	let isFitted = false;
	const { evaluation } = $derived(editor);
	const ground = $derived(backgroundIn('theme', theme.current));

	$effect(() => {
		const made = takeView();
		made.canvas.className = 'block h-full w-full';
		made.canvas.setAttribute(
			'aria-label',
			untrack(() => label)
		);
		around!.append(made.canvas);
		made.light = USUAL_LIGHT;
		made.painter.expectContent();
		scene = made;
		const observer = new ResizeObserver(() => made.resize(around!.clientWidth, around!.clientHeight));
		observer.observe(around!);
		return () => {
			observer.disconnect();
			giveBackView(made);
		};
	});
	$effect(() => scene?.setColours(ground.colours, ground.dark));
	$effect(() => {
		const { packet, bounds } = evaluation;
		if (!packet || !scene) return;
		untrack(() => {
			scene!.take(packet, new Set(), bounds);
			if (!isFitted && bounds) {
				isFitted = true;
				scene!.fitFresh(bounds);
			}
		});
	});
</script>

<div class="relative h-full w-full overflow-hidden" style="background: {ground.css}">
	<div bind:this={around} class="absolute inset-0"></div>
	{#if editor.heat && evaluation.packet?.heat}
		<HeatLegend
			facts={evaluation.packet.heat}
			name={editor.node(editor.heat[0])?.short ?? ''}
			onhide={() => editor.toggleHeat(...(editor.heat as [string, string]))}
		/>
	{/if}
</div>
