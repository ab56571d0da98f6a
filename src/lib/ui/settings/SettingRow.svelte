<script lang="ts">
	import { DropdownMenu, Tooltip } from 'bits-ui';
	import ArrowLeftRight from '@lucide/svelte/icons/arrow-left-right';
	import ChartSpline from '@lucide/svelte/icons/chart-spline';
	import Clock from '@lucide/svelte/icons/clock-3';
	import CornerDownRight from '@lucide/svelte/icons/corner-down-right';
	import Feather from '@lucide/svelte/icons/feather';
	import LogOut from '@lucide/svelte/icons/log-out';
	import Spline from '@lucide/svelte/icons/spline';
	import Link2 from '@lucide/svelte/icons/link-2';
	import Link2Off from '@lucide/svelte/icons/link-2-off';
	import type { GraphNode, Wire } from '$core/engine/index';
	import type { InputDefinition } from '$core/nodes/index';
	import {
		formulasOf,
		inputKind,
		inputOf,
		isKeys,
		isRange,
		isReferable,
		whyNotBroughtOut
	} from '$core/engine/index';
	import { takesMany } from '$core/nodes/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import X from '@lucide/svelte/icons/x';
	import NumberField from './NumberField.svelte';
	import DialEntries from '$lib/ui/dials/DialEntries.svelte';
	import KeyEntries from './KeyEntries.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import TieSlip from '$lib/ui/dials/TieSlip.svelte';
	import WiresInto from './WiresInto.svelte';
	import FollowSearch from './FollowSearch.svelte';
	import { Steady } from '$lib/ui/pointer-held.svelte';
	import TieSearch from './TieSearch.svelte';
	import WireSearch from './WireSearch.svelte';
	import { FIELDS } from './kinds/index';
	import EllipsisVertical from '@lucide/svelte/icons/ellipsis-vertical';
	import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
	import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
	import { SettingRowState } from './setting-row.svelte';

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

	const row = new SettingRowState(() => ({ editor, node, name, input, attributes }));
	const { playing } = $derived(editor);
	const error = new Steady(() => row.error);
	/** Of which name it is asked, the setting's or that of a part. */
	let asked = $state('');
	$effect(() => {
		const { tying: wanted } = editor.dials;
		if (wanted?.node !== node.id || !row.names.includes(wanted.setting)) return;
		asked = wanted.setting;
		tying = true;
		editor.dials.tying = null;
	});
	/** Whether it is asked where a wire shall come from, and beside what. */
	let wiring = $state(false);
	/** Whether it is asked which setting it shall follow. */
	let choosing = $state(false);
	/** Whether it is asked what it shall be tied to. */
	let tying = $state(false);
	/** Whether it is asked at which frame a key shall stand. */
	let keying = $state(false);
	/** Those of its names that have keys. */
	const keyed = $derived(
		isKeys(row.raw) ? [name] : row.names.filter((one) => playing.keysAt({ node: node.id, setting: one }))
	);
	let place = $state<HTMLElement | null>(null);
	// What takes several wires holds nothing that could be typed.
	const field = $derived(wires.length || takesMany(input) ? 'wires' : inputKind(input).field);
	/** Numbers have a menu at each of their fields; what cannot be a dial, such as a curve, has none. */
	const hasOwnMenu = $derived(
		field === 'scalar' || field === 'vector' || field === 'path' || field === 'file' || field === 'formula'
	);
	/** The dials that have it, or a part of it, in hand. */
	const dials = $derived(
		row.names.flatMap((one) => {
			const dial = editor.dials.ofSetting(node.id, one);
			return dial ? [{ name: one, dial }] : [];
		})
	);
	const ties = $derived(editor.dials.tiesOf(node.id, name));
	const SettingField = $derived(field === 'wires' ? null : FIELDS[field]);
	/** Whether others may follow it: its label can be dragged onto theirs. */
	const leads = $derived(isReferable(input));
	const isOver = $derived(row.isOver(name));
	const hasFormula = $derived(input.kind === 'formula' || formulasOf(row.setting).length > 0);
	/** A right click opens the menu of the part that lies there, or of the setting. */
	function openMenu(event: MouseEvent) {
		const target = event.target as HTMLElement;
		// In a text its own menu is wanted.
		if (target.closest('.cm-editor')) return;
		const all = [
			...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('[aria-haspopup=menu]')
		];
		const near = all.find((trigger) => trigger.parentElement?.contains(target)) ?? all[0];
		if (!near) return;
		event.preventDefault();
		near.focus();
		near.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
	}
	const isDrawnOnce = $derived(input.kind === 'number' && !input.varies && isRange(row.setting));
</script>

<!-- Of a setting, or of one part of it, by name. -->
{#snippet entries(of: string)}
	<DialEntries {editor} node={node.id} name={of} />
	<KeyEntries
		{editor}
		node={node.id}
		name={of}
		onask={() => {
			asked = of;
			keying = true;
		}}
	/>
	<DropdownMenu.Item
		class="menu-item"
		onSelect={() => {
			asked = of;
			wiring = true;
		}}><Spline size={14} /> From a wire …</DropdownMenu.Item
	>
	{#if 'varies' in input && input.varies && input.kind === 'number'}
		<DropdownMenu.Item class="menu-item" onSelect={() => editor.rampOver(node.id, of)}
			><ChartSpline size={14} /> Ramp over …</DropdownMenu.Item
		>
	{/if}
	<DropdownMenu.Item
		class="menu-item"
		onSelect={() => {
			asked = of;
			choosing = true;
		}}><CornerDownRight size={14} /> Follow another setting …</DropdownMenu.Item
	>
	<DropdownMenu.Item
		class="menu-item"
		onSelect={() => {
			asked = of;
			tying = true;
		}}><ArrowLeftRight size={14} /> Tie to another setting …</DropdownMenu.Item
	>
	{#if row.mayDraft && row.draft === null}
		<DropdownMenu.Item class="menu-item" onSelect={row.startDraft}
			><Feather size={14} /> Draft value while dragging</DropdownMenu.Item
		>
	{/if}
	{#if editor.place.isInside && !whyNotBroughtOut(editor.graph, node.id, name)}
		<DropdownMenu.Item class="menu-item" onSelect={() => editor.place.bringOut(node.id, name)}
			><LogOut size={14} /> Bring out to {editor.graph.name || 'the subgraph'}</DropdownMenu.Item
		>
	{/if}
{/snippet}

<div
	class="{isOver
		? editor.leading.now?.following?.isAllowed
			? 'bg-teal/15'
			: 'bg-plum/10'
		: ''} grid grid-cols-[minmax(64px,36%)_1fr] items-start gap-x-2 px-3 py-1"
	data-setting={name}
	data-setting-of={node.id}
	role="group"
	aria-label="Setting {input.label}"
	oncontextmenu={openMenu}
>
	<div class="flex min-w-0 items-center gap-1 pt-0.5">
		<Tooltip.Root>
			<Tooltip.Trigger tabindex={-1}>
				{#snippet child({ props: { type: _button, ...props } })}
					<span
						{...props}
						class="min-w-0 text-left text-[13px] leading-tight break-words select-none {leads
							? 'cursor-grab touch-none'
							: 'cursor-help'}"
						{@attach leads && editor.leading.leads(() => [node.id, name])}>{input.label}</span
					>
				{/snippet}
			</Tooltip.Trigger>
			<Tooltip.Portal>
				<Tooltip.Content class="menu max-w-64 px-2 py-1.5 text-xs" side="left" sideOffset={6}
					>{row.help}</Tooltip.Content
				>
			</Tooltip.Portal>
		</Tooltip.Root>
		{#if field === 'vector' && 'uniform' in input && input.uniform}
			<button
				class="icon-button h-5 w-5"
				aria-pressed={row.isUniform}
				aria-label="{input.label}: one value for all axes"
				disabled={!row.isUniform && row.whyNotUniform !== null}
				title={row.isUniform
					? 'One value for all axes. Click to set each.'
					: (row.whyNotUniform ?? 'Set all axes as one.')}
				onclick={row.switchUniform}
			>
				{#if row.isUniform}<Link2 size={13} />{:else}<Link2Off size={13} />{/if}
			</button>
		{/if}
	</div>
	<!-- A table of places needs the whole width, and so does a formula. -->
	<div
		class="min-w-0 {field === 'path' || (field !== 'wires' && hasFormula) ? 'col-span-2' : ''}"
		bind:this={place}
	>
		<FollowSearch {editor} node={node.id} name={asked || name} anchor={place} bind:open={choosing} />
		<TieSearch {editor} node={node.id} name={asked || name} anchor={place} bind:open={tying} />
		<WireSearch
			{editor}
			node={node.id}
			name={wires.length ? name : asked || name}
			anchor={place}
			bind:open={wiring}
			{onwant}
		/>
		{#if SettingField && hasOwnMenu}<SettingField {row} {entries} />
		{:else if SettingField}
			<div class="flex items-start gap-1">
				<div class="min-w-0 flex-1"><SettingField {row} {entries} /></div>
				<DropdownMenu.Root>
					<DropdownMenu.Trigger class="icon-button h-6 w-5 shrink-0" aria-label="{input.label}: how it is set"
						><EllipsisVertical size={14} /></DropdownMenu.Trigger
					>
					<DropdownMenu.Portal>
						<DropdownMenu.Content class="menu" align="end">
							<DialEntries {editor} node={node.id} {name} />
							<KeyEntries
								{editor}
								node={node.id}
								{name}
								onask={() => {
									asked = name;
									keying = true;
								}}
							/>
							<DropdownMenu.Item class="menu-item" onSelect={() => row.put(row.original)}
								><RotateCcw size={14} /> Reset</DropdownMenu.Item
							>
						</DropdownMenu.Content>
					</DropdownMenu.Portal>
				</DropdownMenu.Root>
			</div>
		{:else}<WiresInto {editor} {input} {wires} bind:wiring />{/if}
		{#if row.draft !== null && row.mayDraft && !wires.length}
			<div class="mt-1 flex items-center gap-1 text-[11px] text-quiet">
				<span class="shrink-0">while dragging</span>
				<NumberField
					value={row.draft}
					label="{input.label}, draft value"
					unit={row.unit}
					min={'min' in input ? input.min : undefined}
					max={'max' in input ? input.max : undefined}
					whole
					onchange={row.dragDraft}
				/>
				<button
					class="icon-button h-5 w-5 shrink-0"
					aria-label="{input.label}: no draft value"
					title="No draft value"
					onclick={row.noDraft}><X size={13} /></button
				>
			</div>
		{/if}
		{#if keying}
			<!-- svelte-ignore a11y_autofocus -->
			<input
				{@attach selectAll}
				class="field mt-1 text-xs"
				type="number"
				autofocus
				aria-label="{inputOf(node, asked)?.label}: a key at frame"
				placeholder="Frame, then Enter"
				onkeydown={(event) => {
					if (event.key === 'Enter' && event.currentTarget.value)
						playing.setKey({ node: node.id, setting: asked }, Number(event.currentTarget.value));
					if (event.key === 'Enter' || event.key === 'Escape') keying = false;
				}}
				onblur={() => (keying = false)}
			/>
		{/if}
		{#if input.kind === 'vector' && input.becomes && !wires.length}
			{@const { becomes } = input}
			<button
				class="button mt-0.5 px-1.5 py-0 text-[11px]"
				onclick={() => row.put(row.settingNamed(becomes.setting))}>{becomes.label}</button
			>
		{/if}
		{#if keyed.length}
			<button
				class="mt-0.5 flex max-w-full items-center gap-1 text-left text-[11px] text-teal hover:underline"
				aria-label="{input.label}: its keys in the timeline"
				onclick={() => (editor.drawer = 'timeline')}
				><Clock size={11} class="shrink-0" />
				{keyed[0] === name
					? 'has keys; setting it sets one'
					: `${keyed.map((one) => one.slice(-1)).join(' and ')} ${keyed.length > 1 ? 'have' : 'has'} keys; setting ${keyed.length > 1 ? 'one' : 'it'} sets one`}</button
			>
		{/if}
		{#each dials as { name: of, dial } (of)}
			<button
				class="mt-0.5 flex max-w-full items-center gap-1 text-[11px] text-teal hover:underline"
				aria-label="{of === name ? input.label : `${input.label} ${of.slice(-1)}`}: the dial {dial.name}"
				onclick={() => {
					editor.dials.opened = dial.key;
					editor.select([]);
				}}
				><SlidersHorizontal size={11} class="shrink-0" />{#if of !== name}<span>{of.slice(-1)}:</span
					>{/if}<span class="line-clamp-2 text-left">{dial.name}</span></button
			>
		{/each}
		{#each ties as one (`${one.tie.id} ${one.isA}`)}<TieSlip {editor} {...one} />{/each}
		<!-- A formula tells of its own mistakes. -->
		{#if error.value && !hasFormula}
			<p class="mt-1 text-xs text-plum" role="alert">{error.value.message}</p>
		{/if}
		{#if isDrawnOnce}
			<p class="text-[11px] text-quiet">Drawn once for the node.</p>
		{/if}
	</div>
</div>
