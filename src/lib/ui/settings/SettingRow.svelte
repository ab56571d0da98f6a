<script lang="ts">
	import { selectAll } from '$lib/ui/fields/select-all';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import { DropdownMenu, Tooltip } from 'bits-ui';
	import Spline from '@lucide/svelte/icons/spline';
	import Link2 from '@lucide/svelte/icons/link-2';
	import Link2Off from '@lucide/svelte/icons/link-2-off';
	import type {
		GraphNode,
		InputDefinition,
		PathPoint,
		ScalarSetting,
		Setting,
		Wire,
		varying
	} from '$core/index';
	import { isPath, isRamp, isRange, nodeKinds, settingOf } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import PathTable from './PathTable.svelte';
	import RampPicture from './RampPicture.svelte';
	import FormulaField from './FormulaField.svelte';
	import ScalarField from './ScalarField.svelte';
	import AssetField from './AssetField.svelte';
	import WiresInto from './WiresInto.svelte';
	import WireSearch from './WireSearch.svelte';
	import YesNoField from './YesNoField.svelte';
	import { fromHex, toHex } from './colours';

	interface Props {
		editor: Editor;
		node: GraphNode;
		name: string;
		input: InputDefinition;
		wires: readonly Wire[];
		attributes: readonly string[];
		onwant?: (node: string, input: string) => void;
	}
	let { editor, node, name, input, wires, attributes, onwant }: Props = $props();

	/** Whether it is asked where a wire shall come from, and beside what. */
	let wiring = $state(false);
	let place = $state<HTMLElement | null>(null);
	const setting = $derived(settingOf(node, name, input));
	const own = $derived(node.inputs?.some((one) => one.name === name) ?? false);
	const report = $derived(editor.evaluation.reports.get(node.id));
	const error = $derived(report?.error?.input === name ? report.error : null);
	const original = $derived(
		(input.kind === 'vector' || input.kind === 'colour'
			? [...input.default]
			: 'default' in input
				? input.default
				: 0) as Setting
	);
	const pinned = $derived(node.pinned?.includes(name) ?? false);
	const known = $derived(
		['number', 'vector', 'value'].includes(input.kind)
			? [
					...Object.keys(nodeKinds.get(node.kind)!.inputs),
					...(node.inputs ?? []).map((one) => one.name),
					...attributes
				]
			: []
	);
	const unit = $derived('unit' in input ? (input.unit ?? '') : '');
	/** A vector set by one scalar: all three parts alike. */
	const uniform = $derived(input.kind === 'vector' && !Array.isArray(setting));

	function put(value: Setting, done = true) {
		editor.set(node.id, name, value, done ? null : 'drag');
		if (done) editor.endGesture();
	}
	function drag(value: Setting, done: boolean) {
		editor.set(node.id, name, value, 'drag');
		if (done) editor.endGesture();
	}
	function pin() {
		const list = node.pinned ?? [];
		editor.update(node.id, pinned ? 'Hide on node' : 'Show on node', {
			pinned: pinned ? list.filter((one) => one !== name) : [...list, name]
		});
	}
	const AXES: readonly string[] = ['x', 'y', 'z'];
	/** The scalars of a vector setting: one for all, or one for each axis; each with how the whole is put together anew. */
	function partsOf(
		whole: Setting
	): { mark?: string; part: ScalarSetting; put: (part: ScalarSetting) => Setting }[] {
		if (!Array.isArray(whole)) return [{ part: whole as ScalarSetting, put: (part) => part }];
		return AXES.map((mark, k) => ({
			mark,
			part: whole[k] as ScalarSetting,
			put: (part) => whole.map((old, i) => (i === k ? part : old)) as Setting
		}));
	}
	function setUniform() {
		const parts = Array.isArray(setting) ? setting : null;
		if (parts) put(parts[0] as ScalarSetting);
		else {
			// Split apart, a shared random range stays shared: the copies keep their shape until one part is changed.
			const one = setting as ScalarSetting;
			put([one, structuredClone(one), structuredClone(one)] as never);
		}
	}
	const help = $derived(`${input.help}${own ? '' : ` In formulas: ${node.short}.${name}`}`);
	const asset = $derived(
		input.kind === 'asset' && typeof setting === 'string' ? editor.document.assets[setting] : null
	);
</script>

{#snippet heading()}
	<Tooltip.Root>
		<Tooltip.Trigger tabindex={-1}>
			{#snippet child({ props: { type: _button, ...props } })}
				<span {...props} class="min-w-0 cursor-help text-left text-[13px] leading-tight break-words"
					>{input.label}</span
				>
			{/snippet}
		</Tooltip.Trigger>
		<Tooltip.Portal>
			<Tooltip.Content class="menu max-w-64 px-2 py-1.5 text-xs" side="left" sideOffset={6}
				>{help}</Tooltip.Content
			>
		</Tooltip.Portal>
	</Tooltip.Root>
{/snippet}

{#snippet wireEntry()}
	<DropdownMenu.Item class="menu-item" onSelect={() => (wiring = true)}
		><Spline size={14} /> From a wire …</DropdownMenu.Item
	>
{/snippet}

<div class="grid grid-cols-[minmax(64px,36%)_1fr] items-start gap-x-2 px-3 py-1" data-setting={name}>
	<div class="flex min-w-0 items-center gap-1 pt-0.5">
		{@render heading()}
		{#if input.kind === 'vector' && !wires.length && 'uniform' in input && input.uniform}
			<button
				class="icon-button h-5 w-5"
				aria-pressed={uniform}
				aria-label="{input.label}: one value for all axes"
				title={uniform ? 'One value for all axes. Click to set each.' : 'Set all axes as one.'}
				onclick={setUniform}
			>
				{#if uniform}<Link2 size={13} />{:else}<Link2Off size={13} />{/if}
			</button>
		{/if}
	</div>
	<!-- A table of places needs the whole width. -->
	<div class="min-w-0 {input.kind === 'path' ? 'col-span-2' : ''}" bind:this={place}>
		<WireSearch {editor} node={node.id} {name} anchor={place} bind:open={wiring} {onwant} />
		{#if wires.length || input.kind === 'geometry' || input.kind === 'list'}
			<WiresInto {editor} {input} {wires} bind:wiring />
		{:else if input.kind === 'ramp'}
			<button
				class="flex w-full items-center gap-2 rounded border border-line bg-ground px-1.5 py-1 text-xs"
				aria-label="{input.label}: edit the ramp"
				onclick={() => {
					editor.rampOpen = `${node.id} ${name}`;
					editor.drawer = 'ramps';
				}}
				><RampPicture
					ramp={(isRamp(setting) ? setting : input.default) as varying.Ramp}
					colours={input.colours}
				/> Edit</button
			>
		{:else if input.kind === 'path'}
			<PathTable
				path={(isPath(setting) ? setting.path : []) as PathPoint[]}
				bezier={node.settings.type === 'bezier'}
				onchange={(path) => put({ path } as unknown as Setting)}
			/>
		{:else if input.kind === 'number' || input.kind === 'value'}
			<ScalarField
				setting={setting as ScalarSetting}
				label={input.label}
				original={original as ScalarSetting}
				{unit}
				{known}
				min={input.kind === 'number' ? input.min : undefined}
				max={input.kind === 'number' ? input.max : undefined}
				step={input.kind === 'number' ? input.step : undefined}
				whole={input.kind === 'number' && input.whole}
				{pinned}
				onpin={pin}
				{wireEntry}
				onchange={drag}
			/>
		{:else if input.kind === 'vector'}
			<div class="space-y-0.5">
				{#each partsOf(setting) as { mark, part, put: write } (mark)}
					<ScalarField
						setting={part}
						label={mark ? `${input.label} ${mark}` : input.label}
						{mark}
						original={input.default[mark ? AXES.indexOf(mark) : 0]}
						{unit}
						step={input.step}
						{known}
						{pinned}
						onpin={pin}
						{wireEntry}
						onchange={(value, done) => drag(write(value), done)}
					/>
				{/each}
			</div>
		{:else if input.kind === 'yesno'}
			<YesNoField
				{setting}
				label={input.label}
				original={input.default}
				varies={!!input.varies}
				{known}
				onchange={put}
			/>
		{:else if input.kind === 'choice'}
			<Choice
				label={input.label}
				value={String(setting)}
				options={input.options}
				onchange={(id) => put(id)}
			/>
		{:else if input.kind === 'colour'}
			<input
				type="color"
				class="h-7 w-full cursor-pointer rounded border border-line bg-sheet p-0.5"
				aria-label={input.label}
				value={toHex(Array.isArray(setting) ? (setting as number[]) : [...input.default])}
				oninput={(event) => drag(fromHex(event.currentTarget.value), false)}
				onchange={() => editor.endGesture()}
			/>
		{:else if input.kind === 'text'}
			<input
				{@attach selectAll}
				class="field text-[13px]"
				aria-label={input.label}
				placeholder={input.placeholder}
				list={input.attribute ? 'attribute-names' : undefined}
				value={setting as string}
				onchange={(event) => put(event.currentTarget.value)}
			/>
		{:else if input.kind === 'formula'}
			<FormulaField
				value={setting as string}
				label={input.label}
				known={[...(node.inputs ?? []).map((one) => one.name), ...attributes]}
				onunknown={(unknown) => editor.declareInput(node.id, unknown)}
				onchange={(text) => put(text)}
			/>
		{:else if input.kind === 'asset'}
			<AssetField
				label={input.label}
				chosen={asset?.name ?? null}
				accept={input.accept}
				onchoose={(file) => editor.importFile(node.id, name, file)}
			/>
		{/if}
		{#if error}
			<p class="mt-1 text-xs text-plum" role="alert">{error.message}</p>
		{/if}
		{#if isRange(setting) && 'varies' in input === false && input.kind === 'number'}
			<p class="text-[11px] text-quiet">Drawn once for the node.</p>
		{/if}
	</div>
</div>
