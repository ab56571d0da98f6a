<script lang="ts">
	import KeyRound from '@lucide/svelte/icons/key-round';
	import type { Dial } from '$core/engine/index';
	import { mayDialHaveKeys } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	/** Sets a key of a dial at the playhead, or takes it away. */
	let { editor, dial }: { editor: Editor; dial: Dial } = $props();

	const { playing } = $derived(editor);
	const place = $derived({ node: '', setting: dial.key });
	const keys = $derived(playing.keysAt(place)?.keys ?? []);
	const hasOne = $derived(keys.some(({ at }) => at === playing.frame));
	const does = $derived(`${hasOne ? 'take the key away' : 'set a key'} at frame ${playing.frame}`);
</script>

{#if mayDialHaveKeys(dial)}
	<button
		class="icon-button h-5 w-5 {hasOne ? 'text-coral' : keys.length ? 'text-teal' : ''}"
		aria-pressed={hasOne}
		aria-label="{dial.name}: {does}"
		title="{does[0].toUpperCase()}{does.slice(1)}{keys.length && !hasOne ? '; turning it sets one too' : ''}"
		onclick={() => (hasOne ? playing.removeKeys(place, new Set([playing.frame])) : playing.setKey(place))}
		><KeyRound size={13} /></button
	>
{/if}
