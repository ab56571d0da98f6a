import type { Geometry, Material, Mesh } from '../../geometry/index.ts';
import { allocate, column, scratch, withColumns } from '../../geometry/index.ts';
import type { Varying } from '../../varying/index.ts';
import { constant, distributions, operate, random, rampOf, throughRamp } from '../../varying/index.ts';
import type { Context, ResolvedInputs } from '../define.ts';
import { choice, colour, defineNode, geometry, number, output, ramp, text, value, yesNo } from '../define.ts';
import { facesOfMaterials } from '../../kernels/choose-materials.ts';
import { paintCopies } from '../../kernels/paint-copies.ts';
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

const INPUTS = {
	geometry: geometry({
		label: 'Geometry',
		help: 'What gets the material. A copy gets one for all of it.',
		needs: 'anything'
	}),
	where: yesNo({ label: 'Where', help: 'Which faces and copies get it.', default: true, varies: 'face' }),
	choose: choice({
		label: 'Choose',
		help: 'How each face or copy gets one of the materials.',
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
};

export const materialNode = defineNode({
	id: 'material',
	// 2: copies are painted too.
	version: 2,
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
	help: 'Gives all faces and copies, or those for which Where says yes, a material: one, or one of several for each, by number, by share, by weight or by a value through a ramp.',
	renamed: [{ before: 2, id: 'set-material', inputs: { metal: 'metallic' } }],
	inputs: INPUTS,
	rows: { of: 'material', inputs: Object.keys(ROW) },
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its material.') },
	run(inputs, context) {
		const rows = readRows(inputs, ROW);
		const made = rows.map(materialOf);
		const { geometry } = inputs;
		const { mesh, copies } = geometry;
		const painted = mesh ? withFacesPainted(geometry, mesh, made, inputs, rows, context) : geometry;
		// What has no faces yet, such as a curve, will have them of this.
		const whole = mesh || copies ? painted : { ...geometry, materials: made.slice(0, 1) };
		if (!copies) return { geometry: whole };
		const on: On = { geometry, part: 'copies', kind: 'copy' };
		const chosen = chosenOn(inputs.where, on, context);
		const choice = rows.length > 1 ? choiceOf(inputs, rows, on, context) : null;
		const places = scratch('int', copies.copies.count);
		facesOfMaterials(places, { old: null, chosen, choice, first: 0, count: made.length });
		return { geometry: { ...whole, copies: paintCopies(copies, made, places) } };
	}
});

type Inputs = ResolvedInputs<typeof INPUTS>;
type Rows = readonly ResolvedInputs<typeof ROW>[];
/** The elements that get materials. */
type On =
	{ geometry: Geometry; part: 'mesh'; kind: 'face' } | { geometry: Geometry; part: 'copies'; kind: 'copy' };

const chosenOn = (where: Varying, on: On, context: Context): Uint8Array | 'all' | 'none' =>
	where.op === 'constant' ? (where.value ? 'all' : 'none') : context.yesNos(where, on);

function withFacesPainted(
	geometry: Geometry,
	mesh: Mesh,
	made: readonly Material[],
	inputs: Inputs,
	rows: Rows,
	context: Context
): Geometry {
	const on: On = { geometry, part: 'mesh', kind: 'face' };
	const chosen = chosenOn(inputs.where, on, context);
	const materials = chosen === 'all' ? [...made] : [...geometry.materials, ...made];
	const choice = rows.length > 1 ? choiceOf(inputs, rows, on, context) : null;
	const data = facesOfMaterials(allocate('int', mesh.faces.count), {
		old: mesh.faces.columns.get('material')?.data ?? null,
		chosen,
		choice,
		first: materials.length - made.length,
		count: made.length
	});
	return { ...geometry, materials, mesh: withMaterials(mesh, data) };
}

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

/** A number for each face or copy, from 0 on, of the material that it gets. */
function choiceOf(
	{ choose, number, value, ramp }: Pick<Inputs, 'choose' | 'number' | 'value' | 'ramp'>,
	rows: Rows,
	on: On,
	context: Context
): Float32Array {
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
