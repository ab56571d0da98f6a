<script lang="ts">
	import { fromHex, toHex } from '../colours';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
	const shown = $derived((Array.isArray(row.setting) ? row.setting : row.original) as number[]);
</script>

<input
	type="color"
	class="h-7 w-full cursor-pointer rounded border border-line bg-sheet p-0.5"
	aria-label={row.input.label}
	value={toHex(shown)}
	oninput={(event) => row.drag(fromHex(event.currentTarget.value), false)}
	onchange={() => row.editor.endGesture()}
/>
