import type { Geometry } from '../../geometry/index.ts';
import { boundsOf, geometryOf, matrix, transformGeometry } from '../../geometry/index.ts';
import { readMesh } from '../../formats/read-mesh.ts';
import { asset, choice, defineNode, number, output } from '../define.ts';
import { placeHandles, placeInputs, standing } from '../place-inputs.ts';

/** Metres to one of each unit. */
const IMPORT_UNITS: Record<string, number> = { m: 1, cm: 0.01, mm: 0.001, in: 0.0254, ft: 0.3048 };

export const importMesh = defineNode({
	id: 'import-mesh',
	version: 2,
	name: 'Import mesh',
	family: 'meshes',
	words: ['obj', 'glb', 'gltf', 'ply', 'stl', 'file', 'open', 'load', 'scan'],
	help: 'A mesh from a file: OBJ, GLB, PLY or STL. Say in which unit and with which axis up it was made; the View shows the size it has beside a staff of 2 m.',
	withNothing: 'Until a file is chosen it gives an empty result.',
	inputs: {
		file: asset({
			label: 'File',
			help: 'OBJ, GLB, PLY (text or binary) or STL (both). It is kept inside the generator.',
			accept: ['.obj', '.glb', '.ply', '.stl']
		}),
		unit: choice({
			label: 'Unit',
			help: 'What one unit of the file means.',
			default: 'm',
			options: [
				{ id: 'm', label: 'Metres' },
				{ id: 'cm', label: 'Centimetres' },
				{ id: 'mm', label: 'Millimetres' },
				{ id: 'in', label: 'Inches' },
				{ id: 'ft', label: 'Feet' }
			]
		}),
		up: choice({
			label: 'Up axis',
			help: 'Which axis of the file points up.',
			default: 'y',
			options: [
				{ id: 'y', label: 'y' },
				{ id: 'z', label: 'z' },
				{ id: 'x', label: 'x' }
			]
		}),
		origin: choice({
			label: 'Origin',
			help: 'Where its own origin comes to lie: as in the file, in its middle, or in the middle of its base.',
			default: 'kept',
			options: [
				{ id: 'kept', label: 'As in the file' },
				{ id: 'centre', label: 'In its middle' },
				{ id: 'base', label: 'Under its base' }
			]
		}),
		scale: number({
			label: 'Scale',
			help: 'A further factor.',
			default: 1,
			min: 0.000001,
			slider: [0.01, 10],
			unit: '×'
		}),
		...placeInputs
	},
	handles: placeHandles,
	outputs: { mesh: output('geometry', 'Mesh', 'The mesh, with its materials.') },
	run({ file, unit, up, origin, scale, move, rotation }, context) {
		if (!file) {
			context.warn('No file is chosen yet.');
			return { mesh: geometryOf({}) };
		}
		const read = readMesh(file);
		read.warnings.forEach((warning) => context.warn(warning));
		const s = IMPORT_UNITS[unit] * scale;
		const angles = up === 'z' ? [-90, 0, 0] : up === 'x' ? [0, 0, 90] : [0, 0, 0];
		const sized =
			s === 1 && up === 'y'
				? read.geometry
				: transformGeometry(read.geometry, matrix.affineFrom([0, 0, 0], angles, [s, s, s]));
		const own = origin === 'kept' ? sized : fromOrigin(sized, origin === 'base');
		return { mesh: standing(own, { move, rotation }) };
	}
});

/** Moved so that the origin lies in its middle, or in the middle of its base. */
function fromOrigin(geometry: Geometry, isBase: boolean): Geometry {
	const bounds = boundsOf(geometry);
	if (!bounds) return geometry;
	const [x, y, z] = [0, 1, 2].map((k) => (bounds.low[k] + bounds.high[k]) / 2);
	return transformGeometry(
		geometry,
		matrix.affineFrom([-x, isBase ? -bounds.low[1] : -y, -z], [0, 0, 0], [1, 1, 1])
	);
}
