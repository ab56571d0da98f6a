<script lang="ts">
	import { readQuantity, showNumber, stepFor } from './quantity';

	interface Props {
		value: number;
		label: string;
		unit?: string;
		min?: number;
		max?: number;
		step?: number;
		whole?: boolean;
		disabled?: boolean;
		/** `done` is false while the value is dragged. */
		onchange: (value: number, done: boolean) => void;
	}
	let {
		value,
		label,
		unit = '',
		min = -Infinity,
		max = Infinity,
		step,
		whole = false,
		disabled = false,
		onchange
	}: Props = $props();

	let typed = $state<string | null>(null);
	let problem = $state('');
	let field: HTMLInputElement;
	let drag: { x: number; from: number; moved: boolean } | null = null;
	const shown = $derived(typed ?? `${showNumber(value)}${unit ? ' ' + unit : ''}`);

	const bounded = (x: number) => Math.max(min, Math.min(max, whole ? Math.round(x) : x));

	function commit() {
		if (typed === null) return;
		try {
			const next = bounded(readQuantity(typed));
			problem = '';
			typed = null;
			if (next !== value) onchange(next, true);
		} catch (error) {
			problem = (error as Error).message;
		}
	}

	/** Shift is finer, Ctrl coarser, for keys as for drags. */
	const fineness = (event: { shiftKey: boolean; ctrlKey: boolean }): number =>
		whole ? (event.ctrlKey ? 10 : 1) : event.shiftKey ? 0.1 : event.ctrlKey ? 10 : 1;

	/** All is selected, so that typing replaces it. The text is put there at once: put there later, it would be unselected. */
	function focused() {
		typed = showNumber(value);
		field.value = typed;
		field.select();
	}
	function down(event: PointerEvent) {
		if (disabled || event.button !== 0 || document.activeElement === field) return;
		event.preventDefault();
		drag = { x: event.clientX, from: value, moved: false };
		field.setPointerCapture(event.pointerId);
	}
	function move(event: PointerEvent) {
		if (!drag) return;
		const far = event.clientX - drag.x;
		if (!drag.moved && Math.abs(far) < 3) return;
		drag.moved = true;
		const size = stepFor(drag.from, whole, step) * fineness(event);
		const next = bounded(Number((drag.from + Math.round(far / 2) * size).toFixed(6)));
		if (next !== value) onchange(next, false);
	}
	function up() {
		if (!drag) return;
		const { moved } = drag;
		drag = null;
		if (moved) onchange(value, true);
		else field.focus();
	}
	function key(event: KeyboardEvent) {
		if (event.key === 'Enter') {
			commit();
			if (!problem) field.blur();
		} else if (event.key === 'Escape') {
			typed = null;
			problem = '';
			field.blur();
		} else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
			event.preventDefault();
			commit();
			const size = stepFor(value, whole, step) * fineness(event);
			onchange(bounded(Number((value + (event.key === 'ArrowUp' ? size : -size)).toFixed(6))), true);
		} else return;
		event.stopPropagation();
	}
</script>

<span class="relative block min-w-0 flex-1">
	<input
		bind:this={field}
		class="field nodrag nopan cursor-ew-resize text-right font-mono text-xs focus:cursor-text"
		class:border-plum={problem}
		role="spinbutton"
		aria-label={label}
		aria-valuenow={value}
		aria-valuetext="{showNumber(value)} {unit}"
		aria-invalid={!!problem}
		autocomplete="off"
		{disabled}
		value={shown}
		oninput={(event) => (typed = event.currentTarget.value)}
		onfocus={focused}
		onblur={() => {
			commit();
			if (!problem) typed = null;
		}}
		onkeydown={key}
		onpointerdown={down}
		onpointermove={move}
		onpointerup={up}
		onpointercancel={up}
	/>
	{#if problem}<span class="mt-0.5 block text-xs text-plum" role="alert">{problem}</span>{/if}
</span>
