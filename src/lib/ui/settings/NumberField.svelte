<script lang="ts">
	import { NumberFieldState } from './number-field.svelte';
	import { showNumber } from './quantity';

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

	const typing = new NumberFieldState(() => ({ value, unit, min, max, step, whole, onchange }));
	let field: HTMLInputElement;

	/** All is selected, so that typing replaces it. The text is put there at once: put there later, it would be unselected. */
	function focused() {
		field.value = typing.focus();
		field.select();
	}
	function down(event: PointerEvent) {
		if (disabled || event.button !== 0 || document.activeElement === field) return;
		event.preventDefault();
		typing.press(event.clientX);
		field.setPointerCapture(event.pointerId);
	}
	const up = () => typing.release() && field.focus();
	function key(event: KeyboardEvent) {
		if (event.key === 'Enter') {
			typing.commit();
			if (!typing.problem) field.blur();
		} else if (event.key === 'Escape') {
			typing.cancel();
			field.blur();
		} else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
			event.preventDefault();
			typing.nudge(event.key === 'ArrowUp', event);
		} else return;
		event.stopPropagation();
	}
</script>

<span class="relative block min-w-0 flex-1">
	<input
		bind:this={field}
		class="field nodrag nopan cursor-ew-resize text-right font-mono text-xs focus:cursor-text"
		class:border-plum={typing.problem}
		role="spinbutton"
		aria-label={label}
		aria-valuenow={value}
		aria-valuetext="{showNumber(value)} {unit}"
		aria-invalid={!!typing.problem}
		autocomplete="off"
		{disabled}
		value={typing.shown}
		oninput={(event) => typing.type(event.currentTarget.value)}
		onfocus={focused}
		onblur={() => typing.blur()}
		onkeydown={key}
		onpointerdown={down}
		onpointermove={(event) => typing.drag(event.clientX, event)}
		onpointerup={up}
		onpointercancel={up}
	/>
	{#if typing.problem}<span class="mt-0.5 block text-xs text-plum" role="alert">{typing.problem}</span>{/if}
</span>
