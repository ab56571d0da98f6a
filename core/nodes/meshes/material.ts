import type { Geometry, Material, Mesh } from '../../geometry/index.ts';
import { allocate, column, withColumns } from '../../geometry/index.ts';
import type { Varying } from '../../varying/index.ts';
import { constant, distributions, operate, random, rampOf, throughRamp } from '../../varying/index.ts';
import type { Context, ResolvedInputs } from '../define.ts';
import { choice, colour, defineNode, geometry, number, output, ramp, text, value, yesNo } from '../define.ts';
import { facesOfMaterials } from '../../kernels/choose-materials.ts';
import { laterRows, readRows } from '../rows.ts';

/** One material. */
const ROW = {
	name: text({
		label: 'Name',
		help: 'The name that the material has in an exported file.',
		default: 'Material'
	}),
	colour: colour({ label: 'Colour', help: 'The colour of the surface.', default: [0.55, 0.42, 0.27] }),
	roughness: number({
		label: 'Roughness',
		help: '0 is a mirror, 1 is chalk.',
		default: 0.8,
		min: 0,
		max: 1,
		step: 0.01
	}),
	metallic: number({
		label: 'Metallic',
		help: '1 for metals, 0 for all else.',
		default: 0,
		min: 0,
		max: 1,
		step: 0.01
	}),
	twoSided: yesNo({
		label: 'Two-sided',
		help: 'Shows the backs of faces too, as for leaves.',
		default: false
	}),
	share: number({
		label: 'Share',
		help: 'How often it is chosen, against the shares of the others.',
		default: 1,
		min: 0,
		step: 0.1,
		when: (s) => isOneOfSome(s) && s.choose === 'share'
	}),
	weight: number({
		label: 'Weight',
		help: 'How much it is wanted on a face: the material with the greatest weight gets it.',
		default: 1,
		min: 0,
		step: 0.01,
		varies: 'face',
		when: (s) => isOneOfSome(s) && s.choose === 'weight'
	})
};

const isOneOfSome = ({ rows }: Record<string, unknown>): boolean => typeof rows === 'number' && rows > 1;

export const materialNode = defineNode({
	id: 'material',
	version: 1,
	name: 'Material',
	family: 'meshes',
	words: [
		'colour',
		'shader',
		'shading',
		'pbr',
		'roughness',
		'metallic',
		'paint',
		'material list',
		'material index'
	],
	help: 'Gives all faces, or those for which Where says yes, a material: one, or one of several for each face, by number, by share, by weight or by a value through a ramp.',
	renamed: [{ before: 2, id: 'set-material', inputs: { metal: 'metallic' } }],
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What gets the material. Copies keep their own.',
			needs: 'anything'
		}),
		where: yesNo({ label: 'Where', help: 'Which faces get it.', default: true, varies: 'face' }),
		choose: choice({
			label: 'Choose',
			help: 'How each face gets one of the materials.',
			default: 'number',
			options: [
				{ id: 'number', label: 'By number' },
				{ id: 'share', label: 'By share' },
				{ id: 'weight', label: 'By weight' },
				{ id: 'ramp', label: 'By value through a ramp' }
			],
			when: isOneOfSome
		}),
		number: number({
			label: 'Number',
			help: '0 is the first material; after the last it begins again.',
			default: 0,
			whole: true,
			varies: 'face',
			when: (s) => isOneOfSome(s) && s.choose === 'number'
		}),
		value: value({
			label: 'Value',
			help: 'From 0, the first material, to 1, the last, once it has gone through the ramp.',
			default: 0,
			varies: 'face',
			when: (s) => isOneOfSome(s) && s.choose === 'ramp'
		}),
		ramp: ramp({
			label: 'Ramp',
			help: 'What becomes of the value: equal parts of its height are one material each.',
			default: rampOf('linear', [0, 0], [1, 1]),
			when: (s) => isOneOfSome(s) && s.choose === 'ramp'
		}),
		...ROW,
		...laterRows(ROW, 'material')
	},
	rows: { of: 'material', inputs: Object.keys(ROW) },
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its material.') },
	run(inputs, context) {
		const { geometry, where } = inputs;
		const rows = readRows(inputs, ROW);
		const made = rows.map(materialOf);
		const { mesh } = geometry;
		if (!mesh) return { geometry: { ...geometry, materials: made.slice(0, 1) } };
		const on = { geometry, part: 'mesh', kind: 'face' } as const;
		const chosen = where.op === 'constant' ? null : context.yesNos(where, on);
		const all = chosen === null && where.value !== 0;
		const materials = all ? made : [...geometry.materials, ...made];
		const choice = rows.length > 1 ? choiceOf(inputs, rows, geometry, context) : null;
		const data = facesOfMaterials(allocate('int', mesh.faces.count), {
			old: mesh.faces.columns.get('material')?.data ?? null,
			chosen: all ? 'all' : (chosen ?? 'none'),
			choice,
			first: materials.length - made.length,
			count: made.length
		});
		return { geometry: { ...geometry, materials, mesh: withMaterials(mesh, data) } };
	}
});

const share = (x: number) => Math.max(0, Math.min(1, x));

function materialOf({ name, colour, roughness, metallic, twoSided }: ResolvedInputs<typeof ROW>): Material {
	return {
		name: name || 'Material',
		colour: [share(colour[0]), share(colour[1]), share(colour[2]), 1],
		roughness,
		metallic,
		twoSided
	};
}

function withMaterials(mesh: Mesh, data: Int32Array): Mesh {
	const faces = withColumns(mesh.faces, { material: { ...column('int', 'id', data), default: [-1] } });
	return { ...mesh, faces };
}

/** A number for each face, from 0 on, of the material that it gets. */
function choiceOf(
	{
		choose,
		number,
		value,
		ramp
	}: Pick<ResolvedInputs<typeof materialNode.inputs>, 'choose' | 'number' | 'value' | 'ramp'>,
	rows: readonly ResolvedInputs<typeof ROW>[],
	geometry: Geometry,
	context: Context
): Float32Array {
	const on = { geometry, part: 'mesh', kind: 'face' } as const;
	switch (choose) {
		case 'share': {
			const shares = rows.map(({ share }) => share);
			if (!shares.some((one) => one > 0)) {
				context.warn('All shares are 0, so the first material is taken.');
				return context.numbers(constant(0), on);
			}
			const draw = (name: string) => random(constant(0), constant(1), context.stream(name));
			return context.numbers(distributions.byShares(shares, draw), on);
		}
		case 'weight':
			return context.numbers(greatestOf(rows.map(({ weight }) => weight)), on);
		case 'ramp': {
			const height = throughRamp(operate('clamp', [value, constant(0), constant(1)]), ramp);
			const place = operate('floor', [operate('multiply', [height, constant(rows.length)])]);
			// A height of 1 belongs to the last.
			return context.numbers(operate('clamp', [place, constant(0), constant(rows.length - 1)]), on);
		}
		default: {
			const whole = operate('floor', [operate('add', [number, constant(0.5)])]);
			return context.numbers(operate('mod', [whole, constant(rows.length)]), on);
		}
	}
}

/** The place of the greatest of some values; of equal ones the first. */
function greatestOf(values: readonly Varying[]): Varying {
	let [best, place] = [values[0], constant(0)];
	values.slice(1).forEach((value, i) => {
		const isMore = operate('less', [best, value]);
		place = operate('choose', [isMore, constant(i + 1), place]);
		best = operate('max', [best, value]);
	});
	return place;
}
