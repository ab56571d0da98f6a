<script lang="ts">
	import type { ScalarSetting, Setting, VectorInput } from '$core/index';
	import ScalarField from '../ScalarField.svelte';
	import type { FieldProps } from './props';

	let { row, wireEntry }: FieldProps = $props();
	const input = $derived(row.input as VectorInput);
	const AXES = ['x', 'y', 'z'] as const;

	interface Part {
		mark?: string;
		part: ScalarSetting;
		original: number;
		/** The whole setting with another scalar in this part's place. */
		put: (part: ScalarSetting) => Setting;
	}
	/** The scalars of the setting: one for all, or one for each axis. */
	function partsOf(whole: Setting): Part[] {
		if (!Array.isArray(whole))
			return [{ part: whole as ScalarSetting, original: input.default[0], put: (part) => part }];
		return AXES.map((mark, k) => ({
			mark,
			part: whole[k],
			original: input.default[k],
			put: (part) => whole.map((old, i) => (i === k ? part : old)) as Setting
		}));
	}
</script>

<div class="space-y-0.5">
	{#each partsOf(row.setting) as { mark, part, original, put }, k (mark)}
		<div data-part={mark ? k : undefined}>
			<ScalarField
				setting={part}
				label={mark ? `${input.label} ${mark}` : input.label}
				{mark}
				{original}
				unit={row.unit}
				step={input.step}
				place={row.place}
				pinned={row.isPinned}
				onpin={row.pin}
				{wireEntry}
				onchange={(value, done) => row.drag(put(value), done)}
			/>
		</div>
	{/each}
</div>
