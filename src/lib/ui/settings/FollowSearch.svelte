<script lang="ts">
	import { toast } from 'svelte-sonner';
	import { leadersFor } from '$core/engine/index';
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

	const leaders = () =>
		leadersFor(editor.graph, [node, name]).map(({ place, node: { short }, label }) => ({
			id: place.join(' '),
			text: `${short}.${place[1]}`,
			hints: [label]
		}));
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
