<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import KeyRound from '@lucide/svelte/icons/key-round';
	import X from '@lucide/svelte/icons/x';
	import { isKeyable, isKeys, mayHaveKeys, settingOf, inputOf } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		node: string;
		name: string;
		/** Asks for a frame. */
		onask: () => void;
	}
	let { editor, node, name, onask }: Props = $props();

	const { playing } = $derived(editor);
	/** The setting with its keys; null where it can have none. */
	const raw = $derived.by(() => {
		const one = editor.node(node);
		const input = one && inputOf(one, name);
		return one && input && mayHaveKeys(one, name, input) ? settingOf(one, name, input) : null;
	});
	const isKeyed = $derived(isKeys(raw));
	const hasOne = $derived(isKeys(raw) && raw.keys.some(({ at }) => at === playing.frame));
</script>

{#if raw !== null && (isKeyed || isKeyable(raw))}
	<DropdownMenu.Item class="menu-item" onSelect={() => playing.setKey(node, name)}
		><KeyRound size={14} /> Set a key at frame {playing.frame}</DropdownMenu.Item
	>
	<DropdownMenu.Item class="menu-item" onSelect={() => setTimeout(onask)}
		><KeyRound size={14} /> Set a key at frame …</DropdownMenu.Item
	>
	{#if hasOne}
		<DropdownMenu.Item
			class="menu-item"
			onSelect={() => playing.removeKeys(node, name, new Set([playing.frame]))}
			><X size={14} /> Take the key at frame {playing.frame} away</DropdownMenu.Item
		>
	{/if}
{/if}
