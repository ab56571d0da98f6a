/** For fields that hold one value: a click or Tab into one selects all of it, so that typing replaces it. */
export function selectAll(field: HTMLInputElement): () => void {
	let entered = false;
	const focus = () => {
		field.select();
		entered = true;
	};
	// The click that brings the focus would put the caret where it ends; a drag over part of the text keeps that part.
	const up = () => {
		if (entered && field.selectionStart === field.selectionEnd) field.select();
		entered = false;
	};
	field.addEventListener('focus', focus);
	field.addEventListener('mouseup', up);
	return () => {
		field.removeEventListener('focus', focus);
		field.removeEventListener('mouseup', up);
	};
}
