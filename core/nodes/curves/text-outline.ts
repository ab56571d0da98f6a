import { LETTERS } from '../../fonts/letters.ts';
import { readPathData, withoutDoubleEnd } from '../../formats/svg-path.ts';
import type { Outline } from '../../formats/svg-path.ts';
import { facingInput } from './curve-tools.ts';
import { choice, defineNode, number, output, text } from '../define.ts';
import { curvesOf } from './import-svg.ts';

/** Pieces of the letter that has the most: each has as many points as there are segments. */
const POINTS_A_LETTER = 85;

export const textOutline = defineNode({
	id: 'text-outline',
	version: 1,
	name: 'Text outline',
	family: 'curves',
	words: ['letters', 'type', 'font', 'lettering', 'sign', 'words', 'spline', 'path'],
	help: 'Letters as closed outlines; the eyes of letters such as “8” stay holes when they are filled or extruded.',
	renamed: [{ before: 2, inputs: { steps: 'segments' } }],
	inputs: {
		text: text({ label: 'Text', help: 'What it says. \\n begins a new line.', default: 'Saltreed' }),
		size: number({
			label: 'Size',
			help: 'The height of an em: capitals are about seven tenths of it.',
			default: 1,
			min: 0.0001,
			slider: [0.05, 5],
			unit: 'm'
		}),
		spacing: number({
			label: 'Letter spacing',
			help: 'Added between letters, in fractions of the size.',
			default: 0,
			slider: [-0.2, 1],
			step: 0.01
		}),
		line: number({
			label: 'Line height',
			help: 'From line to line, in fractions of the size.',
			default: 1.2,
			min: 0,
			slider: [0.5, 3],
			step: 0.05
		}),
		align: choice({
			label: 'Align',
			help: 'Where lines begin.',
			default: 'middle',
			options: [
				{ id: 'start', label: 'Start' },
				{ id: 'middle', label: 'Middle' },
				{ id: 'end', label: 'End' }
			]
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces of each bow.',
			default: 6,
			min: 1,
			max: 100,
			slider: [1, 24],
			whole: true
		}),
		facing: { ...facingInput, default: 'front' }
	},
	outputs: { curve: output('geometry', 'Curve', 'The outlines.') },
	estimate: ({ text, segments }) => ({
		elements: text.length * POINTS_A_LETTER * segments,
		of: 'points',
		lower: 'Shorten the text, or lower “Segments”.'
	}),
	run({ text, size, spacing, line, align, segments, facing }, context) {
		const outlines: Outline[] = [];
		const unknown = new Set<string>();
		text
			.slice(0, 2000)
			.split(/\\n|\n/)
			.forEach((row, r) => {
				const known = [...row].filter((letter) => {
					if (LETTERS.has(letter)) return true;
					unknown.add(letter);
					return false;
				});
				const advances = known.map((letter) => LETTERS.get(letter)![0] / 1000 + spacing);
				const width = advances.reduce((sum, one) => sum + one, 0) - (known.length ? spacing : 0);
				let x = align === 'start' ? 0 : align === 'end' ? -width : -width / 2;
				known.forEach((letter, i) => {
					for (const { points } of readPathData(LETTERS.get(letter)![1], segments).outlines)
						outlines.push(
							withoutDoubleEnd({
								closed: true,
								points: points.map((v, k) => (k % 2 ? -v / 1000 - r * line : v / 1000 + x))
							})
						);
					x += advances[i];
				});
			});
		if (unknown.size)
			context.warn(
				`The font has no ${[...unknown]
					.slice(0, 10)
					.map((letter) => `“${letter}”`)
					.join(', ')}: left out.`
			);
		return { curve: curvesOf(outlines, size, facing) };
	}
});
