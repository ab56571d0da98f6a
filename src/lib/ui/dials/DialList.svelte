<script lang="ts">
	import type { Snippet } from 'svelte';
	import type { Dial, GeneratorDocument, Setting } from '$core/engine/index';
	import { isDialShown } from '$core/engine/index';
	import MoreButton from '$lib/ui/MoreButton.svelte';
	import { Portion } from '$lib/ui/portion.svelte';
	import DialRow from './DialRow.svelte';

	interface Props {
		document: GeneratorDocument;
		troubles?: ReadonlyMap<string, string | null>;
		/** Whether those that no condition shows stand there too, faintly. */
		showsAll?: boolean;
		onturn: (key: string, value: Setting, done: boolean) => void;
		onramp?: (dial: Dial) => void;
		more?: Snippet<[Dial]>;
		/** What stands under it. */
		under?: Snippet<[Dial]>;
	}
	let { document, troubles, showsAll = false, onturn, onramp, more, under }: Props = $props();

	const portion = new Portion(60);
	/** Groups in the order in which their first dials stand. */
	const groups = $derived.by(() => {
		const found = new Map<string, Dial[]>();
		for (const dial of portion.of(document.dials)) {
			if (!showsAll && !isDialShown(document, dial)) continue;
			const group = dial.group ?? '';
			found.set(group, [...(found.get(group) ?? []), dial]);
		}
		return [...found];
	});
</script>

{#each groups as [group, dials] (group)}
	{#if group}<h4 class="mt-2 border-t border-line pt-2 text-[13px] font-semibold">{group}</h4>{/if}
	{#each dials as dial (dial.key)}
		{@const isShown = isDialShown(document, dial)}
		<div class={isShown ? '' : 'opacity-60'}>
			<DialRow
				{dial}
				trouble={troubles?.get(dial.key)}
				onturn={(value, done) => onturn(dial.key, value, done)}
				onramp={onramp && (() => onramp(dial))}
			>
				{#snippet more()}
					{#if !isShown}<span class="text-[11px] text-quiet">not shown</span>{/if}
					{@render moreOf(dial)}
				{/snippet}
			</DialRow>
			{@render under?.(dial)}
		</div>
	{/each}
{/each}

<MoreButton {portion} list={document.dials} what="dials" />

{#snippet moreOf(dial: Dial)}{@render more?.(dial)}{/snippet}
