<script lang="ts">
	import type { Setting } from '$core/engine/index';
	import type { PathPoint } from '$core/nodes/index';
	import { isPath } from '$core/engine/index';
	import PathTable from '../PathTable.svelte';
	import type { FieldProps } from './props';

	let { row }: FieldProps = $props();
</script>

<PathTable
	path={(isPath(row.setting) ? row.setting.path : []) as PathPoint[]}
	bezier={row.node.settings.type === 'bezier'}
	onchange={(path) => row.put({ path } as unknown as Setting)}
/>
