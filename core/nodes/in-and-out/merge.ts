import { mergeGeometries } from '../../geometry/index.ts';
import { defineNode, geometry, output } from '../define.ts';

export const merge = defineNode({
	id: 'merge',
	version: 2,
	name: 'Merge',
	family: 'in and out',
	words: ['join', 'combine', 'append', 'union', 'collect', 'group', 'fuse'],
	help: 'Several geometries as one. Nothing is welded: they only travel together.',
	inputs: { geometry: geometry({ label: 'Geometry', help: 'Wire as many as you like.', many: true }) },
	outputs: { geometry: output('geometry', 'Geometry', 'All of them.') },
	run: ({ geometry }) => ({
		geometry: mergeGeometries(
			geometry,
			geometry.map((_, i) => i + 1)
		)
	})
});
