/** A closed choice field: its options, and what a key makes of it. */
export interface Option {
	id: string;
	label: string;
}

/** The option that a key goes to from one; null where the key means nothing here. */
export function stepped(options: readonly Option[], from: string, key: string): string | null {
	const at = options.findIndex((option) => option.id === from);
	const last = options.length - 1;
	const to: Record<string, number> = {
		ArrowDown: Math.min(last, at + 1),
		ArrowUp: Math.max(0, at - 1),
		Home: 0,
		End: last
	};
	return Object.hasOwn(to, key) ? (options[to[key]]?.id ?? null) : null;
}
