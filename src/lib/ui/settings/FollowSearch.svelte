<script lang="ts">
	import { toast } from 'svelte-sonner';
	import { inputsShown, isReferable, mayFollow } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import SearchList from '../SearchList.svelte';

	interface Props {
		editor: Editor;
		/** The node and the setting that shall follow another. */
		node: string;
		name: string;
		anchor: HTMLElement | null;
		open: boolean;
	}
	let { editor, node, name, anchor, open = $bindable() }: Props = $props();

	/** Settings of the same node first. */
	const leaders = () =>
		[...editor.graph.nodes]
			.sort((a, b) => Number(b.id === node) - Number(a.id === node))
			.flatMap((one) =>
				inputsShown(one)
					.filter(([other, input]) => isReferable(input) && (one.id !== node || other !== name))
					.map(([other, input]) => ({
						id: `${one.id} ${other}`,
						text: `${one.short}.${other}`,
						hints: [input.label]
					}))
			)
			.filter(({ id }) => {
				const [of, other] = id.split(' ');
				return mayFollow(editor.graph, [of, other], [node, name]).isAllowed;
			});
	function pick(id: string) {
		const [of, other] = id.split(' ');
		const reason = editor.leading.follow([of, other], [node, name]);
		if (reason) toast.error(reason);
	}
</script>

<SearchList
	bind:open
	{anchor}
	label="Which setting it follows"
	items={leaders}
	empty="No setting could be followed here."
	onpick={pick}
/>
