<script lang="ts">
	import type { AssetInput } from '$core/nodes/index';
	import AssetField from '../AssetField.svelte';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
	const input = $derived(row.input as AssetInput);
	const chosen = $derived(
		typeof row.setting === 'string' ? row.editor.document.assets[row.setting] : undefined
	);
</script>

<AssetField
	label={input.label}
	chosen={chosen?.name ?? null}
	accept={input.accept}
	onchoose={(file) => row.editor.importFile(row.node.id, row.name, file)}
/>
