<script lang="ts">
	import FileUp from '@lucide/svelte/icons/file-up';
	import { toast } from 'svelte-sonner';
	import { usable } from '$lib/ui/file-drops';

	interface Props {
		label: string;
		/** The name of the file that is chosen. */
		chosen: string | null;
		accept: readonly string[];
		/** Reads a file; throws an error with what is wrong with it. */
		onchoose: (file: File) => Promise<unknown>;
	}
	let { label, chosen, accept, onchoose }: Props = $props();

	async function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const files = [...(event.currentTarget.files ?? [])];
		event.currentTarget.value = '';
		try {
			const [file] = await usable(files);
			if (file) await onchoose(file);
		} catch (problem) {
			toast.error((problem as Error).message, { duration: 12_000 });
		}
	}
</script>

<label class="button w-full cursor-pointer text-xs">
	<FileUp size={14} /> <span class="truncate">{chosen ?? 'Choose a file'}</span>
	<input
		type="file"
		class="sr-only"
		aria-label={label}
		accept={[...accept, ...(accept.includes('.obj') ? ['.mtl', '.zip'] : [])].join(',')}
		multiple={accept.includes('.obj')}
		onchange={choose}
	/>
</label>
