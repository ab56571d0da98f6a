<script lang="ts">
	import Hammer from '@lucide/svelte/icons/hammer';
	import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
	import { goto } from '$app/navigation';
	import { toast } from 'svelte-sonner';
	import { inputsShown } from '$core/engine/index';
	import { nodeKinds } from '$core/nodes/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import SettingRow from '../settings/SettingRow.svelte';
	import { footOf } from '../graph/label';
	import ReadOut from '../graph/ReadOut.svelte';
	import ExampleView from './ExampleView.svelte';
	import { openExample } from './handbook.svelte';

	let { id }: { id: string } = $props();

	let opened = $state.raw<{ editor: Editor; subject: string } | null>(null);
	let turn = $state(0);
	$effect(() => {
		void turn;
		const made = openExample(id);
		opened = made;
		// Also where an example before it was cut off: it is small, and budgeted.
		made?.editor.resume();
		return () => void made?.editor.close();
	});
	const editor = $derived(opened?.editor);
	const node = $derived(opened ? opened.editor.node(opened.subject) : null);
	const report = $derived(node ? editor?.evaluation.reports.get(node.id) : undefined);
	/** The nodes in their order, as the artist would wire them. */
	const chain = $derived(
		(editor?.graph.nodes ?? []).map(({ id: one, kind, short }) => ({
			short,
			name: nodeKinds.get(kind)!.name,
			isSubject: one === opened?.subject
		}))
	);

	async function build() {
		try {
			const { store } = await import('$lib/store/files');
			await goto(`/build/${await store({ document: editor!.document, assets: [], leftOut: [] }, true)}`);
		} catch (error) {
			toast.error((error as Error).message);
		}
	}
</script>

{#if editor && node}
	<section
		aria-label="Example"
		class="overflow-hidden rounded border border-line bg-sheet"
		data-evaluations={editor.evaluation.count}
		data-working={editor.evaluation.working}
	>
		<div class="grid h-[340px] grid-cols-[1fr_290px]">
			<div class="min-w-0">
				{#key editor}<ExampleView {editor} label="Picture of the example" />{/key}
			</div>
			<div class="min-h-0 overflow-y-auto border-l border-line py-1.5">
				{#if node.kind === 'read-out'}<ReadOut {editor} {node} />{/if}
				{#each inputsShown(node) as [name, input] (name)}
					{#if input.group}<h3 class="mt-2 border-t border-line px-3 pt-2 pb-0.5 text-[13px]">
							{input.group}
						</h3>{/if}
					<SettingRow
						{editor}
						{node}
						{name}
						{input}
						attributes={[]}
						wires={editor.graph.wires.filter(({ to }) => to[0] === node.id && to[1] === name)}
					/>
				{/each}
			</div>
		</div>
		<footer class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line px-3 py-1.5 text-xs">
			<span class="min-w-0 flex-1 text-quiet"
				>{#each chain as { short, name, isSubject }, i (short)}{i ? ' → ' : ''}<span
						class={isSubject ? 'font-semibold text-ink' : ''}
						title={short}>{name}</span
					>{/each}</span
			>
			<span class="font-mono {report?.error ? 'text-plum' : 'text-quiet'}" role="status"
				>{footOf(report)}</span
			>
			<button class="button text-xs" onclick={() => turn++}><RotateCcw size={13} /> Reset</button>
			<button class="button text-xs" onclick={build}><Hammer size={13} /> Open in Build</button>
		</footer>
	</section>
{:else}
	<p class="rounded border border-line bg-sheet px-3 py-2 text-sm text-quiet">
		It reads a file of yours, so there is no example here.
	</p>
{/if}
