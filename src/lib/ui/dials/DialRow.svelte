<script lang="ts">
	import type { Snippet } from 'svelte';
	import { Tooltip } from 'bits-ui';
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	import type { Dial, Setting } from '$core/engine/index';
	import DialControl from './DialControl.svelte';

	interface Props {
		dial: Dial;
		/** Why it does less than it could. */
		trouble?: string | null;
		onturn: (value: Setting, done: boolean) => void;
		onramp?: () => void;
		/** What can be done to it, beside its name. */
		more?: Snippet;
	}
	let { dial, trouble = null, onturn, onramp, more }: Props = $props();
</script>

<div class="py-1" data-dial={dial.key}>
	<div class="flex min-h-6 items-center gap-1">
		<Tooltip.Root disabled={!dial.help}>
			<Tooltip.Trigger tabindex={-1}>
				{#snippet child({ props: { type: _button, ...props } })}
					<span {...props} class="min-w-0 flex-1 cursor-help text-[13px] leading-tight break-words"
						>{dial.name}</span
					>
				{/snippet}
			</Tooltip.Trigger>
			<Tooltip.Portal>
				<Tooltip.Content class="menu max-w-64 px-2 py-1.5 text-xs" side="left" sideOffset={6}
					>{dial.help}</Tooltip.Content
				>
			</Tooltip.Portal>
		</Tooltip.Root>
		{@render more?.()}
	</div>
	<DialControl {dial} {onturn} {onramp} />
	{#if trouble}
		<p class="mt-0.5 flex gap-1 text-xs text-quiet" role="status">
			<TriangleAlert size={13} class="mt-0.5 shrink-0 text-ochre" /><span>{trouble}</span>
		</p>
	{/if}
</div>
