<script lang="ts">
	import type { GraphNode } from '$core/engine/index';
	import { presetOfUse, presetsOfUse, withUsePreset } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import Choice from '$lib/ui/fields/Choice.svelte';

	/** The presets of the generator that a node uses. */
	let { editor, node }: { editor: Editor; node: GraphNode } = $props();

	const presets = $derived(presetsOfUse(editor.document, node));
	const current = $derived(presetOfUse(editor.document, node)?.name ?? '');
	const options = $derived([
		...(current ? [] : [{ id: '', label: 'None of them, as it stands' }]),
		...presets.map(({ name }) => ({ id: name, label: name }))
	]);
</script>

{#if presets.length}
	<div class="mx-3 mt-2 flex items-center justify-between gap-2 text-[13px]">
		<span>Preset</span>
		<Choice
			class="w-44 text-[13px]"
			label="Preset of {node.short}"
			value={current}
			{options}
			onchange={(name) =>
				editor.change(`Use ${name}`, (document) => withUsePreset(document, editor.graphId, node.id, name))}
		/>
	</div>
{/if}
