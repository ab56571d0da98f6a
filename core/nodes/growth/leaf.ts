import { geometryOf } from '../../geometry/index.ts';
import { makeLeaf } from '../../kernels/leaf.ts';
import { rampOf } from '../../varying/index.ts';
import { colour, defineNode, number, output, ramp } from '../define.ts';
import { inRadians, readerOf } from './growth-inputs.ts';

export const leaf = defineNode({
	id: 'leaf',
	version: 1,
	name: 'Leaf',
	family: 'growth',
	words: ['blade', 'petal', 'foliage', 'frond', 'feather'],
	help: 'A blade that grows along y, its face towards z: an outline, a bend of the midrib, a fold, curled and waving edges. UVs run from edge to edge and along it; its material shows both sides.',
	inputs: {
		length: number({
			label: 'Length',
			help: 'Along the midrib.',
			default: 0.12,
			min: 0,
			slider: [0, 1],
			unit: 'm'
		}),
		width: number({
			label: 'Width',
			help: 'Where it is widest.',
			default: 0.05,
			min: 0,
			slider: [0, 0.5],
			unit: 'm'
		}),
		outline: ramp({
			label: 'Ramp along',
			help: 'Its outline: how wide it is along its length.',
			default: rampOf('smooth', [0, 0], [0.4, 1], [1, 0])
		}),
		bend: number({
			label: 'Arch',
			help: 'How far the midrib turns back from its beginning to its end.',
			default: 25,
			slider: [-180, 180],
			unit: '°'
		}),
		fold: number({
			label: 'Keel',
			help: 'How far both halves are folded up along the midrib.',
			default: 10,
			slider: [-90, 90],
			unit: '°'
		}),
		curl: number({
			label: 'Edge roll',
			help: 'How far the edges roll up; negative, down.',
			default: 0,
			slider: [-180, 180],
			unit: '°'
		}),
		wave: number({
			label: 'Edge waves',
			help: 'How far the edges wave up and down.',
			default: 0,
			slider: [0, 0.05],
			unit: 'm'
		}),
		waves: number({
			label: 'Waves',
			help: 'How often they do so along it.',
			default: 4,
			min: 0,
			slider: [0, 20]
		}),
		along: number({
			label: 'Segments along',
			help: 'Pieces along the midrib.',
			default: 6,
			min: 1,
			max: 500,
			slider: [1, 32],
			whole: true,
			group: 'Segments'
		}),
		across: number({
			label: 'Segments across',
			help: 'Pieces from the midrib to an edge.',
			default: 1,
			min: 1,
			max: 100,
			slider: [1, 12],
			whole: true
		}),
		detail: number({
			label: 'Level of detail',
			help: '0 has all segments, each level more half as many. Wire it from the node of that name.',
			default: 0,
			min: 0,
			max: 2,
			slider: [0, 2],
			whole: true
		}),
		colour: colour({ label: 'Colour', help: 'Of its material.', default: [0.13, 0.29, 0.08] })
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The blade.') },
	example: { settings: { length: 0.8, width: 0.3, wave: 0.02 } },
	estimate: ({ along, across, detail }) => ({
		elements: (atLevel(along, detail) + 1) * (2 * atLevel(across, detail) + 1),
		of: 'points',
		lower: 'Lower the segments.'
	}),
	run({ outline, bend, fold, curl, colour: [r, g, b], detail, ...shape }) {
		const width = readerOf(outline);
		// Pointed at both ends, one piece would be nothing.
		const least = width(0) || width(1) ? 1 : 2;
		const mesh = makeLeaf({
			...shape,
			along: Math.max(least, atLevel(shape.along, detail)),
			across: atLevel(shape.across, detail),
			outline: width,
			bend: inRadians(bend),
			fold: inRadians(fold),
			curl: inRadians(curl)
		});
		const material = {
			name: 'leaf',
			colour: [r, g, b, 1] as const,
			roughness: 0.6,
			metallic: 0,
			twoSided: true
		};
		return { mesh: geometryOf({ mesh, materials: [material] }) };
	}
});

const SHARES = [1, 0.5, 0.25];

/** So many segments are left at a level of detail: at least one. */
const atLevel = (segments: number, detail: number): number =>
	Math.max(1, Math.round(segments * SHARES[detail]));
