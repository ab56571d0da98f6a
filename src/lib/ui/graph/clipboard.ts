/** Nodes by way of the clipboard, unless the artist is typing. */
import { toast } from 'svelte-sonner';
import { readClip } from '$core/engine/index';
import { plural } from '$core/math/index';
import type { Editor } from '$lib/editor/editor.svelte';

/** How far from where they were nodes are pasted. */
const BESIDE: [number, number] = [50, 60];

const isTyping = () => !!document.activeElement?.closest('input, textarea, select, [contenteditable]');

/** What is selected, to the clipboard; cut, it is gone from the graph. */
export function copyNodes(editor: Editor, event: ClipboardEvent): void {
	const text = !isTyping() && editor.copy();
	if (!text) return;
	event.preventDefault();
	event.clipboardData?.setData('text/plain', text);
	if (event.type === 'cut') editor.deleteSelected();
}

/** What was copied, here or in another window. */
export function pasteNodes(editor: Editor, event: ClipboardEvent): void {
	if (isTyping()) return;
	let read: ReturnType<typeof readClip>;
	try {
		read = readClip(event.clipboardData?.getData('text/plain') ?? '');
	} catch (error) {
		return void toast.error((error as Error).message);
	}
	if (!read) return;
	event.preventDefault();
	const [first, ...more] = read.leftOut;
	if (first) toast.warning(more.length ? `${first} And ${plural(more.length, 'more thing')}.` : first);
	if (read.clip.nodes.length) void editor.paste(read.clip, BESIDE);
}
