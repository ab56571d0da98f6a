<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import GripVertical from '@lucide/svelte/icons/grip-vertical';
	import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
	import type { Dial } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import DialKey from './DialKey.svelte';
	import DialList from './DialList.svelte';
	import DialPage from './DialPage.svelte';

	let { editor }: { editor: Editor } = $props();

	const { dials } = $derived(editor);
	/** As they are at the frame that is looked at. */
	const { now } = $derived(editor.playing);
	const isAsItBegan = ({ key, start }: Dial) =>
		JSON.stringify(dials.all.find((one) => one.key === key)?.value) === JSON.stringify(start);
	/** The dial that is dragged to another place. */
	let dragged = $state<string | null>(null);

	function drop(event: DragEvent) {
		event.preventDefault();
		const row = (event.target as HTMLElement).closest<HTMLElement>('[data-dial]');
		const over = dials.all.find(({ key }) => key === row?.dataset.dial);
		if (!dragged || !over || over.key === dragged) return;
		const list = dials.all.map(({ key }) => key);
		// Dropped from above it comes to stand behind, from below before it.
		const isDown = list.indexOf(dragged) < list.indexOf(over.key);
		const before = isDown ? (list[list.indexOf(over.key) + 1] ?? null) : over.key;
		dials.move(dragged, before, over.group);
		dragged = null;
	}
	function nudge(event: KeyboardEvent, dial: Dial) {
		if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
		event.preventDefault();
		const list = dials.all;
		const at = list.findIndex(({ key }) => key === dial.key);
		const next = list[event.key === 'ArrowUp' ? at - 1 : at + 1];
		if (!next) return;
		dials.move(dial.key, event.key === 'ArrowUp' ? next.key : (list[at + 2]?.key ?? null), next.group);
	}
	/** Its ramp is edited where the setting stands that it has in hand. */
	function editRamp({ key }: Dial) {
		const reader = dials.readers(key).find(({ byFormula }) => !byFormula);
		if (!reader) return;
		dials.goTo(reader);
		editor.rampOpen = `${reader.node} ${reader.setting}`;
		editor.drawer = 'ramps';
	}
</script>

<section aria-label="Dials" ondragover={(event) => dragged && event.preventDefault()} ondrop={drop}>
	{#if dials.all.length}
		<DialList document={now} troubles={dials.troubles} showsAll onturn={dials.turn} onramp={editRamp}>
			{#snippet more(dial)}
				<DialKey {editor} {dial} />
				{#if !isAsItBegan(dial)}
					<button
						class="icon-button h-5 w-5"
						aria-label="{dial.name}: reset"
						title="Reset"
						onclick={() => dials.reset(dial.key)}><RotateCcw size={13} /></button
					>
				{/if}
				<button
					class="icon-button h-5 w-4 cursor-grab"
					draggable="true"
					aria-label="{dial.name}: move"
					title="Drag to another place; arrow keys move it too"
					ondragstart={() => (dragged = dial.key)}
					ondragend={() => (dragged = null)}
					onkeydown={(event) => nudge(event, dial)}><GripVertical size={13} /></button
				>
				<button
					class="icon-button h-5 w-5"
					aria-expanded={dials.opened === dial.key}
					aria-label="{dial.name}: about the dial"
					title="Name, range, help and what it drives"
					onclick={() => (dials.opened = dials.opened === dial.key ? null : dial.key)}
					><ChevronDown size={14} class={dials.opened === dial.key ? 'rotate-180' : ''} /></button
				>
			{/snippet}
			{#snippet under(dial)}
				{#if dials.opened === dial.key}<DialPage {editor} {dial} />{/if}
			{/snippet}
		</DialList>
	{:else}
		<p class="text-xs text-quiet">
			No dials yet. Any setting becomes one from its menu; whoever uses the generator turns them without
			seeing the graph.
		</p>
	{/if}
</section>
