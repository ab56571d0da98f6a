<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import KeyRound from '@lucide/svelte/icons/key-round';
	import X from '@lucide/svelte/icons/x';
	import { cutPart, isKeyable, isKeys } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		/** The node and the name of the setting or part; with no node, the key of a dial. */
		node: string;
		name: string;
		/** Asks for a frame. */
		onask: () => void;
	}
	let { editor, node, name, onask }: Props = $props();

	const { playing } = $derived(editor);
	/** The setting with its keys; null where it can have none. */
	const place = $derived({ node, setting: name });
	/** The vector of which it is a part. */
	const whole = $derived(cutPart(name)?.whole ?? null);
	const raw = $derived(playing.mayHaveKeys(place) ? (playing.rawAt(place) ?? null) : null);
	const isKeyed = $derived(isKeys(raw));
	const hasOne = $derived(isKeys(raw) && raw.keys.some(({ at }) => at === playing.frame));
</script>

{#if raw !== null && (isKeyed || isKeyable(raw))}
	<DropdownMenu.Item class="menu-item" onSelect={() => playing.setKey(place)}
		><KeyRound size={14} /> Set a key at frame {playing.frame}</DropdownMenu.Item
	>
	{#if whole}
		<DropdownMenu.Item class="menu-item" onSelect={() => playing.setKey({ node, setting: whole })}
			><KeyRound size={14} /> Set a key of x, y and z at frame {playing.frame}</DropdownMenu.Item
		>
	{/if}
	<DropdownMenu.Item class="menu-item" onSelect={() => setTimeout(onask)}
		><KeyRound size={14} /> Set a key at frame …</DropdownMenu.Item
	>
	{#if hasOne}
		<DropdownMenu.Item class="menu-item" onSelect={() => playing.removeKeys(place, new Set([playing.frame]))}
			><X size={14} /> Delete the key at frame {playing.frame}</DropdownMenu.Item
		>
	{/if}
{/if}
