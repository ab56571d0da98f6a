<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Camera from '@lucide/svelte/icons/camera';
	import ImageUp from '@lucide/svelte/icons/image-up';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		/** The preset or the kept variation whose picture is meant. */
		id: string;
	}
	let { editor, id }: Props = $props();

	/** Asks for a file of the artist's own; the menu is gone by the time that it is chosen. */
	function ask() {
		const { presets } = editor;
		const of = id;
		const files = document.createElement('input');
		files.type = 'file';
		files.accept = 'image/png,image/jpeg,image/webp';
		files.setAttribute('aria-label', 'A picture of one’s own');
		files.onchange = () => {
			const [file] = files.files ?? [];
			if (file) void presets.picture(of, file);
		};
		files.click();
	}
</script>

<DropdownMenu.Item class="menu-item" onSelect={() => editor.presets.picture(id, null)}
	><Camera size={14} /> The View’s picture</DropdownMenu.Item
>
<DropdownMenu.Item class="menu-item" onSelect={ask}
	><ImageUp size={14} /> A picture of one’s own …</DropdownMenu.Item
>
