<script lang="ts">
	import type { KeysPlace } from '$core/engine/index';
	import { PARTS, inputsShown, partName } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import type { KeySelection } from '$lib/editor/key-selection.svelte';
	import SearchList from '../SearchList.svelte';

	/** Puts keys that were copied from one setting onto another that can hold them. */
	let { editor, chosen, frame }: { editor: Editor; chosen: KeySelection; frame: number } = $props();

	let open = $state(false);
	let button = $state<HTMLElement | null>(null);

	interface Target {
		id: string;
		text: string;
		hints: string[];
		place: KeysPlace;
	}
	const targets = (): Target[] => {
		const dials = editor.dials.all.map(({ key, name }): Target => ({
			id: `dial ${key}`,
			text: name,
			hints: ['dial'],
			place: { node: '', setting: key }
		}));
		const settings = editor.graph.nodes.flatMap((node) =>
			inputsShown(node).flatMap(([setting, input]) => {
				const names =
					input.kind === 'vector' ? [setting, ...PARTS.map((part) => partName(setting, part))] : [setting];
				return names.map((name): Target => ({
					id: `${node.id} ${name}`,
					text: `${node.short}.${name}`,
					hints: [input.label],
					place: { node: node.id, setting: name }
				}));
			})
		);
		return [...dials, ...settings].filter(({ place }) => chosen.mayPasteOnto(place));
	};
</script>

<button
	bind:this={button}
	class="button text-xs"
	disabled={!chosen.isOfOne}
	aria-haspopup="dialog"
	aria-expanded={open}
	title={chosen.isOfOne
		? 'Keys of one setting go onto another that holds the same'
		: 'Copy keys of one setting alone to put them onto another'}
	onclick={() => (open = !open)}>Paste onto another setting …</button
>
<SearchList
	bind:open
	anchor={button}
	label="Onto which setting"
	items={targets}
	empty="No other setting here holds what these keys hold."
	onpick={(id) => {
		const target = targets().find((one) => one.id === id);
		if (target) chosen.paste(frame, target.place);
	}}
/>
