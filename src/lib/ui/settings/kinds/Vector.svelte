<script lang="ts">
	import type { ScalarSetting, VectorPart } from '$core/engine/index';
	import type { VectorInput } from '$core/nodes/index';
	import { PARTS, inputOf, partName } from '$core/engine/index';
	import ScalarField from '../ScalarField.svelte';
	import WiresInto from '../WiresInto.svelte';
	import type { FieldProps } from './props';

	let { row, entries }: FieldProps = $props();
	const input = $derived(row.input as VectorInput);
	let wiring = $state(false);

	interface Shown {
		/** Null where one value stands for all parts. */
		part: VectorPart | null;
		name: string;
		label: string;
		setting: ScalarSetting;
	}
	/** The scalars of the setting: one for all, or one for each axis. */
	const shown = $derived.by((): Shown[] => {
		const { setting, name } = row;
		if (!Array.isArray(setting))
			return [{ part: null, name, label: input.label, setting: setting as ScalarSetting }];
		return PARTS.map((part) => ({
			part,
			name: partName(name, part),
			label: `${input.label} ${'xyz'[part]}`,
			setting: setting[part] as ScalarSetting
		}));
	});
</script>

<div class="space-y-0.5">
	{#each shown as { part, name, label, setting } (name)}
		{@const wires = part === null ? [] : row.wiresInto(name)}
		<div
			data-setting={part === null ? undefined : name}
			data-setting-of={part === null ? undefined : row.node.id}
			class={part !== null && row.isOver(name) ? 'rounded bg-teal/15' : ''}
		>
			{#if wires.length}
				<div class="flex min-w-0 items-start gap-1">
					<span class="w-3 pt-1 text-xs text-quiet" aria-hidden="true">{'xyz'[part!]}</span>
					<div class="min-w-0 flex-1">
						<WiresInto editor={row.editor} input={inputOf(row.node, name)!} {wires} bind:wiring />
					</div>
				</div>
			{:else}
				<ScalarField
					{setting}
					{label}
					mark={part === null ? undefined : 'xyz'[part]}
					original={input.default[part ?? 0]}
					unit={row.unit}
					step={input.step}
					place={{ ...row.place, input: name }}
					pinned={row.isPinned}
					onpin={row.pin}
					{entries}
					onchange={(value, done) => row.drag(value, done, name)}
				/>
			{/if}
		</div>
	{/each}
</div>
