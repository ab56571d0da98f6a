/** Finding among named things by the words that are typed. */

export interface Named {
	text: string;
	/** More words by which it is found. */
	hints?: readonly string[];
}

/** How well a text fits what is typed, from 0 (not at all) to 1: every word must stand in it, or begin one of the hints. */
export function fitOf({ text, hints = [] }: Named, typed: string): number {
	const own = text.toLowerCase();
	const others = hints.flatMap((hint) => hint.toLowerCase().split(/\s+/));
	const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
	const each = words.map((word) => {
		if (own === word) return 1;
		if (own.startsWith(word)) return 0.9;
		if (own.includes(` ${word}`)) return 0.8;
		if (own.includes(word)) return 0.7;
		return others.some((hint) => hint.startsWith(word)) ? 0.5 : 0;
	});
	return Math.min(1, ...each);
}

/** Those that fit, the best first; equally good ones stay in their order. All where nothing is typed. */
export function ranked<Item extends Named>(items: readonly Item[], typed: string): Item[] {
	return items
		.map((item) => ({ item, fit: fitOf(item, typed) }))
		.filter(({ fit }) => fit > 0)
		.sort((a, b) => b.fit - a.fit)
		.map(({ item }) => item);
}
