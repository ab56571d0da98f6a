<script lang="ts">
	import { onMount } from 'svelte';
	import type { Note } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	let { data, selected }: { data: { note: Note; editor: Editor }; selected?: boolean } = $props();
	let editing = $state(false);
	let area = $state<HTMLTextAreaElement>();

	function begin() {
		editing = true;
		requestAnimationFrame(() => area?.focus());
	}
	function done() {
		if (editing && area && area.value !== data.note.text) data.editor.editNote(data.note.id, area.value);
		editing = false;
	}
	onMount(() => {
		if (data.editor.newNote !== data.note.id) return;
		data.editor.newNote = null;
		begin();
	});
</script>

<div
	class="text-[12.5px] leading-snug text-quiet italic {selected ? 'text-coral' : ''}"
	style="width: {data.note.width ?? 240}px"
	role="note"
	ondblclick={begin}
>
	{#if editing}
		<textarea
			bind:this={area}
			class="field nodrag not-italic"
			rows="3"
			aria-label="Note"
			value={data.note.text}
			onblur={done}
			onkeydown={(event) => {
				event.stopPropagation();
				if (event.key === 'Escape') area?.blur();
			}}></textarea>
	{:else}{data.note.text}{/if}
</div>
