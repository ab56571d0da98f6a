<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		/** Where it stands on the screen. */
		x: number;
		y: number;
		label: string;
		onclose: () => void;
		/** Its entries, each a `menuitem`. */
		children: Snippet;
	}
	let { x, y, label, onclose, children }: Props = $props();

	let list = $state<HTMLElement>();
	let [width, height] = $state([0, 0]);
	const items = () => [...list!.querySelectorAll<HTMLButtonElement>('[role=menuitem]')];
	$effect(() => items()[0]?.focus());

	function key(event: KeyboardEvent) {
		const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
		if (event.key === 'Escape' || event.key === 'Tab') onclose();
		else if (step) {
			const all = items();
			const at = all.indexOf(document.activeElement as HTMLButtonElement);
			all[(at + step + all.length) % all.length].focus();
		} else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<div
	class="fixed inset-0 z-40"
	role="presentation"
	onpointerdown={onclose}
	oncontextmenu={(event) => {
		event.preventDefault();
		onclose();
	}}
></div>
<div
	bind:this={list}
	bind:offsetWidth={width}
	bind:offsetHeight={height}
	class="menu fixed z-50 max-h-80 overflow-y-auto"
	style="left: {Math.max(8, Math.min(x, innerWidth - width - 8))}px; top: {Math.max(
		8,
		Math.min(y, innerHeight - height - 8)
	)}px"
	role="menu"
	tabindex="-1"
	aria-label={label}
	onkeydown={key}
>
	{@render children()}
</div>
