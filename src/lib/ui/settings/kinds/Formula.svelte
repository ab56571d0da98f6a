<script lang="ts">
	import FormulaField from '../FormulaField.svelte';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
</script>

<FormulaField
	value={row.setting as string}
	label={row.input.label}
	place={row.place}
	settingOf={(text) => text}
	ondeclare={(unknown) => row.editor.declareInput(row.node.id, unknown)}
	onchange={row.put}
/>
