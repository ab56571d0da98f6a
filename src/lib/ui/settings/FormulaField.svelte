<script lang="ts">
	import { FormulaError, FUNCTIONS, namesIn, parseFormula, RESERVED, UNITS } from '$core/varying/index';

	interface Props {
		value: string;
		label: string;
		/** Names with a meaning here. */
		known?: readonly string[];
		/** Names that are neither known nor reserved: they are read as attributes. */
		onunknown?: (name: string) => void;
		onchange: (value: string) => void;
	}
	let { value, label, known = [], onunknown, onchange }: Props = $props();
	let typed = $state<string | null>(null);
	const text = $derived(typed ?? value);

	const read = $derived.by(() => {
		try {
			const tree = parseFormula(text);
			const unknownFunction = callsIn(tree).find((name) => !FUNCTIONS.includes(name));
			return {
				tree,
				error: unknownFunction
					? new FormulaError(
							`There is no function “${unknownFunction}”.`,
							text.indexOf(unknownFunction),
							text.indexOf(unknownFunction) + unknownFunction.length
						)
					: null
			};
		} catch (error) {
			return { tree: null, error: error instanceof FormulaError ? error : null };
		}
	});
	const attributes = $derived(
		read.tree
			? [...new Set(namesIn(read.tree).map(({ name }) => name))].filter(
					(name) =>
						!name.includes('.') &&
						!known.includes(name) &&
						!RESERVED.includes(name) &&
						!['pi', 'tau', 'golden', 'goldenAngle', 'seed', 'yes', 'no', 'true', 'false'].includes(name) &&
						UNITS[name] === undefined
				)
			: []
	);

	function callsIn(tree: ReturnType<typeof parseFormula>): string[] {
		if (tree.kind === 'call') return [tree.name, ...tree.args.flatMap(callsIn)];
		if (tree.kind === 'operator') return tree.args.flatMap(callsIn);
		return tree.kind === 'part' ? callsIn(tree.of) : [];
	}
	function commit() {
		if (typed !== null && typed !== value) onchange(typed);
		typed = null;
	}
	function mend() {
		const { error } = read;
		if (!error?.mending) return;
		onchange(text.slice(0, error.from) + error.mending.text + text.slice(error.to));
		typed = null;
	}
</script>

<span class="block min-w-0 flex-1">
	<textarea
		class="field nodrag block resize-y font-mono text-xs"
		class:border-plum={read.error}
		rows={Math.max(1, Math.min(7, Math.ceil(text.length / 15)))}
		aria-label={label}
		aria-invalid={!!read.error}
		spellcheck="false"
		value={text}
		oninput={(event) => (typed = event.currentTarget.value)}
		onblur={commit}
		onkeydown={(event) => {
			if (event.key === 'Enter' && !event.shiftKey) {
				event.preventDefault();
				commit();
			} else if (event.key === 'Escape') typed = null;
			event.stopPropagation();
		}}></textarea>
	{#if read.error}
		<span class="mt-0.5 block text-xs text-plum" role="alert">
			<span class="block font-mono whitespace-pre"
				>{text.slice(Math.max(0, read.error.from - 18), read.error.from)}<mark
					class="bg-plum/20 text-plum underline">{text.slice(read.error.from, read.error.to) || '·'}</mark
				></span
			>
			Character {read.error.from + 1}: {read.error.message}
			{#if read.error.mending}<button
					class="button mt-1 text-xs"
					onmousedown={(event) => event.preventDefault()}
					onclick={mend}>{read.error.mending.label}</button
				>{/if}
		</span>
	{/if}
	{#if onunknown}
		{#each attributes as name (name)}
			<span class="mt-1 flex items-center gap-2 text-xs text-quiet">
				<span>“{name}” is read as an attribute.</span>
				<button
					class="button px-1.5 py-0 text-xs"
					onmousedown={(event) => event.preventDefault()}
					onclick={() => onunknown(name)}>Make it an input</button
				>
			</span>
		{/each}
	{/if}
</span>
