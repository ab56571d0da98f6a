<script lang="ts">
	import Tick from '$lib/ui/fields/Tick.svelte';
	import type * as varying from '$core/varying/index';
	import type { Setting } from '$core/engine/index';
	import { inputsOf, isRamp, settingOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import RampEditor from './RampEditor.svelte';

	let { editor }: { editor: Editor } = $props();

	interface Entry {
		key: string;
		node: string;
		setting: string;
		name: string;
		ramp: varying.Ramp;
		colours: boolean;
	}
	/** Every ramp of the generator; one that a wire replaces is not among them. */
	const entries = $derived.by(() => {
		const wired = new Set(editor.graph.wires.map((wire) => `${wire.to[0]} ${wire.to[1]}`));
		return editor.graph.nodes.flatMap((node) =>
			inputsOf(node).flatMap(([setting, input]): Entry[] => {
				if (input.kind !== 'ramp' || wired.has(`${node.id} ${setting}`)) return [];
				const value = settingOf(node, setting, input);
				return [
					{
						key: `${node.id} ${setting}`,
						node: node.id,
						setting,
						name: `${node.short}, ${input.label}`,
						ramp: isRamp(value) ? (value as varying.Ramp) : input.default,
						colours: !!input.colours
					}
				];
			})
		);
	});
	let compared = $state<string[]>([]);
	const current = $derived(
		entries.find(({ key }) => key === editor.rampOpen) ??
			entries.find(({ node }) => node === editor.active?.id) ??
			entries[0]
	);
	function put(ramp: varying.Ramp, done: boolean) {
		if (!current) return;
		editor.set(current.node, current.setting, ramp as unknown as Setting, 'ramp');
		if (done) editor.endGesture();
	}
</script>

<div class="flex min-h-0 flex-1">
	<ul
		class="w-60 shrink-0 overflow-y-auto border-r border-line p-2 text-xs"
		aria-label="Ramps of this generator"
	>
		{#each entries as entry (entry.key)}
			<li
				class="flex items-center gap-1 rounded {entry.key === current?.key ? 'bg-ground font-semibold' : ''}"
			>
				<button
					class="min-w-0 flex-1 truncate px-1.5 py-1 text-left"
					onclick={() => (editor.rampOpen = entry.key)}>{entry.name}</button
				>
				{#if entry.key !== current?.key}
					<span title="Show it behind, for comparison"
						><Tick
							label="Compare with {entry.name}"
							checked={compared.includes(entry.key)}
							onchange={(on) =>
								(compared = on ? [...compared, entry.key] : compared.filter((one) => one !== entry.key))}
						/></span
					>
				{/if}
			</li>
		{:else}<li class="p-1.5 text-quiet">
				No node here has a ramp. Add “Shape weight” or “Weight along curve”.
			</li>{/each}
	</ul>
	{#if current}
		{#key current.key}
			<RampEditor
				ramp={current.ramp}
				colours={current.colours}
				others={entries.filter(({ key }) => compared.includes(key) && key !== current.key)}
				onchange={put}
			/>
		{/key}
	{/if}
</div>
