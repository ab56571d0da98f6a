import { allocate, geometryOf, makeCurves, pollAt } from '../../geometry/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import type { Outline } from '../../formats/svg-path.ts';
import { readPathText, readSvg } from '../../formats/svg.ts';
import { facingInput, facingTo } from './curve-tools.ts';
import { asset, choice, defineNode, number, output, text } from '../define.ts';
import { placeHandles, placeInputs, standing } from '../place-inputs.ts';

export const importSvg = defineNode({
	id: 'import-svg',
	version: 1,
	name: 'Import SVG',
	family: 'curves',
	words: ['vector', 'drawing', 'logo', 'outline file', 'spline', 'path'],
	help: 'Outlines from an SVG drawing: paths and basic shapes with their transforms, in metres, the middle at the origin. Text, images and scripts in it are left out.',
	renamed: [{ before: 2, inputs: { steps: 'segments' } }],
	withNothing: 'Until a file is chosen it gives an empty result.',
	inputs: {
		file: asset({ label: 'File', help: 'An SVG drawing.', accept: ['.svg'] }),
		data: text({
			label: 'Path data',
			help: 'Without a file: what stands in a path’s “d”, pasted here, in millimetres.',
			default: '',
			placeholder: 'M0 0 L10 5 …'
		}),
		size: choice({
			label: 'Size',
			help: 'As the file says, or to a width of your own.',
			default: 'file',
			options: [
				{ id: 'file', label: 'As in the file' },
				{ id: 'width', label: 'To a width' }
			]
		}),
		width: number({
			label: 'Width',
			help: 'Of the whole drawing.',
			default: 1,
			min: 0.0001,
			slider: [0.05, 5],
			unit: 'm',
			when: (s) => s.size === 'width'
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces of each curved command.',
			default: 12,
			min: 1,
			max: 500,
			slider: [1, 64],
			whole: true
		}),
		facing: { ...facingInput, default: 'front' },
		...placeInputs
	},
	handles: placeHandles,
	outputs: { curve: output('geometry', 'Curve', 'The outlines.') },
	run({ file, data, size, width, segments, facing, move, rotation }, context) {
		if (!file && !data) {
			context.warn('Choose an SVG file, or paste path data.');
			return { curve: curvesOf([], 1, facing) };
		}
		const read = file ? readSvg(file.bytes, file.name, segments) : readPathText(data, segments);
		if (read.ignored.length)
			context.warn(
				`Left out: ${read.ignored.slice(0, 8).join(', ')}${read.ignored.length > 8 ? ', …' : ''}.`
			);
		if (!read.outlines.length) context.warn('There are no outlines in this drawing.');
		const scale = size === 'width' && read.width > 0 ? width / read.width : 1;
		return { curve: standing(curvesOf(read.outlines, scale, facing), { move, rotation }) };
	}
});

/** Outlines of a plane as curves. */
export function curvesOf(outlines: readonly Outline[], scale: number, facing: string): Geometry {
	const usable = outlines.filter(({ points }) => points.length >= 4);
	const starts = allocate('index', usable.length + 1);
	usable.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length / 2));
	const positions = allocate('float', 3 * starts[usable.length]);
	usable.forEach(({ points }, c) => {
		for (let i = 0; i < points.length / 2; i++) {
			pollAt(i);
			positions.set(facingTo(facing, points[2 * i] * scale, points[2 * i + 1] * scale), 3 * (starts[c] + i));
		}
	});
	return geometryOf({
		curves: makeCurves(
			positions,
			starts,
			Uint8Array.from(usable, ({ closed, points }) => (closed && points.length >= 6 ? 1 : 0))
		)
	});
}
