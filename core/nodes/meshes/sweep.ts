import { NodeError } from '../../math/index.ts';
import { geometryOf, positionsOf } from '../../geometry/index.ts';
import { resampledSection, sectionsOf } from '../../kernels/section.ts';
import { sweep as sweepAlong } from '../../kernels/sweep.ts';
import { element } from '../../varying/index.ts';
import { framesBy } from '../curves/curve-tools.ts';
import { choice, defineNode, geometry, number, output, vector, yesNo } from '../define.ts';
import { repeatsOf, textureRepeat } from './texture-repeat.ts';

const ALONG = element('u');

export const sweep = defineNode({
	id: 'sweep',
	// 2: faces know what their path knows.
	version: 2,
	name: 'Sweep',
	family: 'meshes',
	words: ['extrude along', 'loft along path', 'profile', 'moulding', 'rail', 'pipe', 'hose', 'gutter'],
	help: 'Carries a section along every curve. With several sections it goes from one to the next. Size, rotation and offset may vary along the path: a formula in u does it.',
	renamed: [{ before: 2, inputs: { rotate: 'rotation' } }],
	example: { wires: { path: 'bend', section: 'hoop' } },
	inputs: {
		path: geometry({ label: 'Path', help: 'The curves to go along.', needs: 'curves' }),
		section: geometry({
			label: 'Section',
			help: 'One flat curve, or several to blend. Its own plane is found; its origin lies on the path.',
			needs: 'curves'
		}),
		scale: number({
			label: 'Scale',
			help: 'The size of the section, at each point of the path.',
			default: 1,
			slider: [0, 3],
			step: 0.01,
			unit: '×',
			varies: 'point'
		}),
		rotation: number({
			label: 'Rotation',
			help: 'About the path, at each point of it.',
			default: 0,
			slider: [-360, 360],
			step: 1,
			unit: '°',
			varies: 'point'
		}),
		offset: vector({
			label: 'Offset',
			help: 'Sideways (x) and upward (y) from the path.',
			default: [0, 0, 0],
			unit: 'm',
			varies: 'point'
		}),
		blend: number({
			label: 'Which section',
			help: 'With several sections: 0 is the first, 1 the last, at each point of the path.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'point'
		}),
		spread: yesNo({
			label: 'Spread sections evenly',
			help: 'The first section at the start of the path, the last at its end.',
			default: true
		}),
		up: choice({
			label: 'Up',
			help: 'Curve follows the path without spinning; world keeps the section upright.',
			default: 'curve',
			options: [
				{ id: 'curve', label: 'Curve' },
				{ id: 'world', label: 'World' }
			]
		}),
		caps: yesNo({ label: 'Caps', help: 'Puts a face on both ends of open paths.', default: true }),
		mitre: number({
			label: 'Mitre limit',
			help: 'At sharp bends the section is widened, at most this many times. 1 leaves it.',
			default: 4,
			min: 1,
			slider: [1, 10],
			step: 0.1,
			unit: '×'
		}),
		repeat: textureRepeat
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The swept mesh.') },
	estimate: ({ path, section }) => ({
		elements: path.curves!.points.count * (section.curves!.points.count || 1),
		of: 'points',
		lower: 'Resample the path or the section with fewer points.'
	}),
	run({ path, section, scale, rotation, offset, blend, spread, up, caps, mitre, repeat }, context) {
		const found = sectionsOf(section.curves!);
		if (!found.length)
			throw new NodeError(
				'The section needs at least two points. Draw a curve, or use Circle or Rectangle.',
				{ input: 'section' }
			);
		const mixed = found.some((one) => one.closed !== found[0].closed);
		if (mixed) context.warn('Some sections are open and some closed; only those like the first are used.');
		const alike = found.filter((one) => one.closed === found[0].closed);
		const most = Math.max(...alike.map((one) => one.points.length / 2));
		const sections = alike.map((one) => resampledSection(one, most));
		const curves = path.curves!;
		const where = { geometry: path, part: 'curves', kind: 'point' } as const;
		const frames = framesBy(curves, up);
		const shares = spread ? context.numbers(ALONG, where) : context.numbers(blend, where);
		const mesh = sweepAlong(curves, frames, {
			sections,
			blend: shares.map((x) => x * (sections.length - 1)),
			scale: context.numbers(scale, where),
			turn: context.numbers(rotation, where),
			offset:
				offset.constant && offset.args.every((part) => part.value === 0)
					? null
					: context.vectors(offset, where),
			caps,
			mitre,
			repeat: repeatsOf(repeat, path, context)
		});
		if (!positionsOf(curves).length) context.warn('The path has no points, so nothing was swept.');
		return { mesh: geometryOf({ mesh, materials: path.materials }) };
	}
});
