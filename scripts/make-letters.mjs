// Makes core/fonts/letters.ts from the font that the application ships with. Run by hand when the font changes.
import { readFileSync, writeFileSync } from 'node:fs';
import opentype from 'opentype.js';

const file = 'node_modules/@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-600-normal.woff';
const font = opentype.parse(readFileSync(file).buffer);
const letters = {};
const wanted = [
	...Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)),
	...'ÄÖÜäöüßÀÁÂÃÅÆÇÈÉÊËÌÍÎÏÑÒÓÔÕØÙÚÛÝàáâãåæçèéêëìíîïñòóôõøùúûýÿ–—’‘“”°×'
];
for (const letter of wanted) {
	const glyph = font.charToGlyph(letter);
	if (!glyph || (glyph.index === 0 && letter !== ' ')) continue;
	// Scaled to 1,000 units an em, y down as in SVG.
	letters[letter] = [
		Math.round((glyph.advanceWidth * 1000) / font.unitsPerEm),
		glyph.getPath(0, 0, 1000).toPathData(0)
	];
}
const rows = Object.entries(letters).map(
	([letter, [advance, path]]) => `\t[${JSON.stringify(letter)}, [${advance}, '${path}']]`
);
writeFileSync(
	'core/fonts/letters.ts',
	`/** Outlines of letters as SVG path data, 1,000 units an em, y down, with their advance. Made by scripts/make-letters.mjs. */\nexport const LETTERS: ReadonlyMap<string, readonly [number, string]> = new Map([\n${rows.join(',\n')}\n]);\n`
);
console.log(rows.length, 'letters');
