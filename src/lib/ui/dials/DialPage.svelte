<script lang="ts">
	import ArrowRight from '@lucide/svelte/icons/arrow-right';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { Dial } from '$core/engine/index';
	import { whyNoCondition } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import Tick from '$lib/ui/fields/Tick.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import { readQuantity, showNumber } from '$lib/ui/settings/quantity';

	let { editor, dial }: { editor: Editor; dial: Dial } = $props();

	const isNumber = $derived(dial.kind === 'number' || dial.kind === 'whole');
	const readers = $derived(editor.dials.readers(dial.key));
	const groups = $derived([...new Set(editor.dials.all.flatMap(({ group }) => group ?? []))]);
	const condition = $derived(dial.shownIf ? whyNoCondition(editor.document, dial.shownIf) : null);
	const change = (of: Partial<Dial>) => editor.dials.change(dial.key, of);

	/** A number, or nothing where the field is empty; what is none is left as it was. */
	function numberFrom(
		field: HTMLInputElement,
		put: (value: number | undefined) => void,
		before: number | undefined
	) {
		const text = field.value.trim();
		try {
			put(text ? readQuantity(text) : undefined);
		} catch {
			field.value = before === undefined ? '' : showNumber(before);
		}
	}
	const BOUNDS = [
		['low', 'Slider from'],
		['high', 'Slider to'],
		['min', 'Never below'],
		['max', 'Never above'],
		['step', 'Step']
	] as const;
</script>

<div class="mb-2 space-y-1.5 rounded border border-line bg-ground p-2 text-xs">
	<label class="flex items-center gap-2"
		><span class="w-20 shrink-0 text-quiet">Name</span><input
			{@attach selectAll}
			class="field text-[13px]"
			value={dial.name}
			aria-label="Name of the dial"
			onchange={(event) => change({ name: event.currentTarget.value.trim() || dial.name })}
		/></label
	>
	<label class="flex items-center gap-2"
		><span class="w-20 shrink-0 text-quiet">In formulas</span><span class="font-mono">dial.</span><input
			{@attach selectAll}
			class="field font-mono text-xs"
			value={dial.key}
			aria-label="Name of the dial in formulas"
			onchange={(event) => change({ key: event.currentTarget.value })}
		/></label
	>
	<label class="flex items-center gap-2"
		><span class="w-20 shrink-0 text-quiet">Group</span><input
			class="field text-[13px]"
			value={dial.group ?? ''}
			list="dial-groups"
			aria-label="Group of the dial"
			onchange={(event) => change({ group: event.currentTarget.value.trim() || undefined })}
		/></label
	>
	<datalist id="dial-groups"
		>{#each groups as group (group)}<option value={group}></option>{/each}</datalist
	>
	<label class="flex items-start gap-2"
		><span class="w-20 shrink-0 pt-1 text-quiet">Help</span><textarea
			class="field h-14 resize-y py-1 text-[13px]"
			value={dial.help ?? ''}
			placeholder="What it changes, in a sentence"
			aria-label="Help of the dial"
			onchange={(event) => change({ help: event.currentTarget.value.trim() || undefined })}></textarea></label
	>
	{#if isNumber}
		<label class="flex items-center gap-2"
			><span class="w-20 shrink-0 text-quiet">Unit</span><input
				class="field text-[13px]"
				value={dial.unit ?? ''}
				maxlength="12"
				aria-label="Unit of the dial"
				onchange={(event) => change({ unit: event.currentTarget.value.trim() || undefined })}
			/></label
		>
		<div class="grid grid-cols-2 gap-x-2 gap-y-1.5">
			{#each BOUNDS as [key, label] (key)}
				<label class="flex items-center gap-1"
					><span class="w-16 shrink-0 text-quiet">{label}</span><input
						class="field text-right font-mono text-xs"
						value={dial[key] === undefined ? '' : showNumber(dial[key])}
						placeholder="–"
						aria-label="{label}, of the dial"
						onchange={(event) =>
							numberFrom(event.currentTarget, (value) => change({ [key]: value }), dial[key])}
					/></label
				>
			{/each}
		</div>
	{/if}
	<label class="flex items-center gap-2"
		><span class="w-20 shrink-0 text-quiet">Shown if</span><input
			class="field font-mono text-xs"
			value={dial.shownIf ?? ''}
			placeholder="always"
			aria-label="Shown if"
			onchange={(event) => change({ shownIf: event.currentTarget.value.trim() || undefined })}
		/></label
	>
	<label class="flex items-center gap-2"
		><Tick checked={!!dial.leftOut} onchange={(on) => change({ leftOut: on || undefined })} /> Presets leave it
		as it is</label
	>
	{#if condition}<p class="text-plum" role="alert">{condition}</p>{/if}
	<div>
		<p class="text-quiet">{readers.length ? 'Drives' : 'It drives nothing yet'}</p>
		<ul>
			{#each readers as reader (`${reader.graph} ${reader.node} ${reader.setting}`)}
				<li>
					<button
						class="flex w-full items-center gap-1 py-0.5 text-left hover:underline"
						onclick={() => editor.dials.goTo(reader)}
						><ArrowRight size={12} class="shrink-0" /><span class="line-clamp-2 font-mono break-words"
							>{reader.words}</span
						>{#if reader.byFormula}<span class="text-quiet">by formula</span>{/if}</button
					>
				</li>
			{/each}
		</ul>
	</div>
	<div class="flex flex-wrap gap-1">
		<button class="button text-xs" onclick={() => change({ start: dial.value })}>Make this the default</button
		>
		<button class="button text-xs" onclick={() => editor.dials.remove(dial.key)}
			><Trash2 size={13} /> Delete</button
		>
	</div>
</div>
