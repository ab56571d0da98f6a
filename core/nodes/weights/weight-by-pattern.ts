import { PI } from '../../math/index.ts';
import { readPicture } from '../../formats/image.ts';
import type { Channel } from '../../formats/image.ts';
import { pictureField } from '../../kernels/picture-field.ts';
import type { Varying } from '../../varying/index.ts';
import {
	attribute,
	constant,
	element,
	fieldAt,
	operate,
	part,
	vector as vectorOf
} from '../../varying/index.ts';
import { asset, choice, defineNode, number, vector, yesNo } from '../define.ts';
import { clamped, weightOutput } from './weight-tools.ts';

export const weightByPattern = defineNode({
	id: 'weight-by-pattern',
	version: 1,
	name: 'Weight by pattern',
	family: 'weights',
	words: [
		'checks',
		'checkerboard',
		'stripes',
		'dots',
		'tiles',
		'texture',
		'mask',
		'falloff',
		'image',
		'picture',
		'bitmap'
	],
	help: 'Checks, stripes, dots or a picture of your own, across a plane or across the UVs.',
	inputs: {
		pattern: choice({
			label: 'Pattern',
			help: 'What repeats.',
			default: 'checks',
			options: [
				{ id: 'checks', label: 'Checks' },
				{ id: 'stripes', label: 'Stripes' },
				{ id: 'dots', label: 'Dots' },
				{ id: 'picture', label: 'Picture' }
			]
		}),
		file: asset({
			label: 'Picture',
			help: 'A PNG or JPEG file. Its numbers are taken as they are stored.',
			accept: ['.png', '.jpg', '.jpeg'],
			when: (s) => s.pattern === 'picture'
		}),
		channel: choice({
			label: 'Channel',
			help: 'What of the picture is the weight.',
			default: 'brightness',
			options: [
				{ id: 'brightness', label: 'Brightness' },
				{ id: 'red', label: 'Red' },
				{ id: 'green', label: 'Green' },
				{ id: 'blue', label: 'Blue' },
				{ id: 'opacity', label: 'Opacity' }
			],
			when: (s) => s.pattern === 'picture'
		}),
		across: choice({
			label: 'Across',
			help: 'The plane in which it lies.',
			default: 'xz',
			options: [
				{ id: 'xz', label: 'The ground (x, z)' },
				{ id: 'xy', label: 'The front (x, y)' },
				{ id: 'zy', label: 'The side (z, y)' },
				{ id: 'uv', label: 'UVs' }
			]
		}),
		width: number({
			label: 'Width',
			help: 'One repeat across.',
			default: 1,
			min: 0.0001,
			slider: [0.01, 5],
			unit: 'm'
		}),
		height: number({
			label: 'Height',
			help: 'One repeat the other way.',
			default: 1,
			min: 0.0001,
			slider: [0.01, 5],
			unit: 'm',
			when: (s) => s.pattern !== 'stripes'
		}),
		centre: vector({
			label: 'Centre',
			help: 'Where the middle of the picture, or the start of a repeat, lies.',
			default: [0, 0, 0],
			unit: 'm',
			when: (s) => s.across !== 'uv'
		}),
		repeats: yesNo({
			label: 'Repeats',
			help: 'Goes on beyond the picture’s edges; otherwise the weight is 0 there.',
			default: false,
			when: (s) => s.pattern === 'picture'
		}),
		fill: number({
			label: 'Fill',
			help: 'How much of a repeat weighs 1.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01,
			when: (s) => s.pattern === 'stripes' || s.pattern === 'dots'
		}),
		soft: number({
			label: 'Soft edge',
			help: 'How gradually it goes from 0 to 1, as a fraction of a repeat.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.01,
			when: (s) => s.pattern !== 'picture'
		})
	},
	handles: { move: 'centre' },
	outputs: { weight: weightOutput },
	run({ pattern, file, channel, across, width, height, centre, repeats, fill, soft }, context) {
		const [u, v] =
			across === 'uv'
				? [part(attribute('uv'), 0), part(attribute('uv'), 1)]
				: [...across].map((axis) => part(element('position'), 'xyz'.indexOf(axis)));
		if (pattern === 'picture') {
			if (!file) {
				context.warn('No picture is chosen yet, so the weight is 0.');
				return { weight: constant(0) };
			}
			const picture = readPicture(file, channel as Channel);
			return {
				weight: fieldAt(
					pictureField(picture, repeats, `${file.hash} ${channel}`),
					placeOn(across, u, v, width, height, centre)
				)
			};
		}
		const [i, j] = [...across].map((axis) => (across === 'uv' ? 0 : centre['xyz'.indexOf(axis)]));
		const a = operate('divide', [from(u, i), constant(width)]),
			b = operate('divide', [from(v, j), constant(height)]);
		// How far inside the figure, in repeats: positive inside.
		let inside: Varying;
		if (pattern === 'stripes') inside = operate('subtract', [constant(fill / 2), fromMiddle(a)]);
		else if (pattern === 'dots')
			inside = operate('subtract', [
				constant(fill / 2),
				operate('sqrt', [operate('add', [square(fromMiddle(a)), square(fromMiddle(b))])])
			]);
		else inside = operate('divide', [operate('multiply', [wave(a), wave(b)]), constant(PI)]);
		return {
			weight:
				soft > 0
					? clamped(operate('add', [operate('divide', [inside, constant(soft)]), constant(0.5)]))
					: operate('less', [constant(0), inside])
		};
	}
});

/** Where a place falls on a picture that fills 0 … 1 each way. On the ground its top lies towards -z, as on a map. */
function placeOn(
	across: string,
	u: Varying,
	v: Varying,
	width: number,
	height: number,
	centre: readonly number[]
): Varying {
	const along = (x: Varying, from: number, size: number) =>
		operate('divide', [operate('subtract', [x, constant(from)]), constant(size)]);
	if (across === 'uv') return vectorOf(along(u, 0, width), along(v, 0, height), 0);
	const [i, j] = [...across].map((axis) => 'xyz'.indexOf(axis));
	const up = across === 'xz' ? -height : height;
	return vectorOf(along(u, centre[i] - width / 2, width), along(v, centre[j] - up / 2, up), 0);
}

/** A place as seen from another. */
const from = (x: Varying, start: number): Varying =>
	start === 0 ? x : operate('subtract', [x, constant(start)]);
/** The distance of a place to the middle of its repeat, in repeats. */
const fromMiddle = (x: Varying): Varying =>
	operate('abs', [operate('subtract', [operate('fract', [x]), constant(0.5)])]);
const square = (x: Varying): Varying => operate('multiply', [x, x]);
const wave = (x: Varying): Varying => operate('sin', [operate('multiply', [x, constant(2 * PI)])]);
