import type { Material } from '../../geometry/index.ts';
import { allocate, column, withColumns, pollAt } from '../../geometry/index.ts';
import { colour, defineNode, geometry, number, output, text, yesNo } from '../define.ts';

export const materialNode = defineNode({
	id: 'material',
	version: 1,
	name: 'Material',
	family: 'meshes',
	words: ['colour', 'shader', 'shading', 'pbr', 'roughness', 'metallic', 'paint'],
	help: 'Gives all faces, or those for which Where says yes, a material.',
	renamed: [{ before: 2, id: 'set-material', inputs: { metal: 'metallic' } }],
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What gets the material. Copies keep their own.',
			needs: 'anything'
		}),
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
		where: yesNo({ label: 'Where', help: 'Which faces get it.', default: true, varies: 'face' })
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its material.') },
	run({ geometry, name, colour, roughness, metallic, twoSided, where }, context) {
		const share = (x: number) => Math.max(0, Math.min(1, x));
		const material: Material = {
			name: name || 'Material',
			colour: [share(colour[0]), share(colour[1]), share(colour[2]), 1],
			roughness,
			metal: metallic,
			twoSided
		};
		if (!geometry.mesh) return { geometry: { ...geometry, materials: [material] } };
		const { mesh } = geometry;
		const chosen =
			where.op === 'constant' ? null : context.yesNos(where, { geometry, part: 'mesh', kind: 'face' });
		const all = chosen === null && where.value !== 0;
		const materials = all ? [material] : [...geometry.materials, material];
		const old = mesh.faces.columns.get('material');
		const data = allocate('int', mesh.faces.count);
		for (let f = 0; f < data.length; f++) {
			pollAt(f);
			data[f] = all || chosen?.[f] ? materials.length - 1 : (old?.data[f] ?? -1);
		}
		const faces = withColumns(mesh.faces, { material: { ...column('int', 'id', data), default: [-1] } });
		return { geometry: { ...geometry, materials, mesh: { ...mesh, faces } } };
	}
});
