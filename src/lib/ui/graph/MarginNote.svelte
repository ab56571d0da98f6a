<script lang="ts">
	import { onMount } from 'svelte';
	import type { Note } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	let { data, selected }: { data: { item: Note; editor: Editor }; selected?: boolean } = $props();
	let editing = $state(false);
	let area = $state<HTMLTextAreaElement>();

	function begin() {
		editing = true;
		requestAnimationFrame(() => area?.focus());
	}
	function done() {
		if (editing && area && area.value !== data.item.text) data.editor.editNote(data.item.id, area.value);
		editing = false;
	}
	onMount(() => {
		if (data.editor.newNote !== data.item.id) return;
		data.editor.newNote = null;
		begin();
	});
</script>

<div
	class="text-[12.5px] leading-snug text-quiet italic {selected ? 'text-coral' : ''}"
	style="width: {data.item.width ?? 240}px"
	role="note"
	ondblclick={begin}
>
	{#if editing}
		<textarea
			bind:this={area}
			class="field nodrag not-italic"
			rows="3"
			aria-label="Note"
			value={data.item.text}
			onblur={done}
			onkeydown={(event) => {
				event.stopPropagation();
				if (event.key === 'Escape') area?.blur();
			}}></textarea>
	{:else}{data.item.text}{/if}
</div>
