import { scratch, pollAt } from '../../geometry/index.ts';
import { taperMap } from '../../kernels/deform-maps.ts';
import { rampOf, readRamp, tableOfRamp } from '../../varying/index.ts';
import { defineNode, geometry, number, output, ramp } from '../define.ts';
import { deform, stretchInputs, stretchOf } from './deform-tools.ts';
import { weightInputs } from '../weights/weight-tools.ts';

export const taper = defineNode({
	id: 'taper',
	version: 1,
	name: 'Taper',
	family: 'deform',
	words: ['flare', 'narrow', 'scale along', 'bulge', 'squash', 'deform'],
	help: 'Scales cross-sections about an axis: by one factor where it begins, another where it ends, and between them by a ramp.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What is tapered. Copies move and turn with it.',
			needs: 'anything'
		}),
		start: number({
			label: 'At the start',
			help: 'The factor where it begins.',
			default: 1,
			slider: [0, 3],
			step: 0.01,
			unit: '×'
		}),
		end: number({
			label: 'At the end',
			help: 'The factor where it ends.',
			default: 0.5,
			slider: [0, 3],
			step: 0.01,
			unit: '×'
		}),
		ramp: ramp({
			label: 'Ramp',
			help: 'How it goes from the start (0) to the end (1).',
			default: rampOf('linear', [0, 0], [1, 1])
		}),
		...stretchInputs,
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same, tapered.') },
	run({ geometry, start, end, ramp, axis, from, to, ...given }, context) {
		const stretch = stretchOf(geometry, { axis, from, to });
		if (!stretch) return { geometry };
		const table = tableOfRamp(ramp, 1);
		const map = taperMap(stretch, (t) => {
			const out = scratch('double', t.length);
			readRamp(table, 1, t.length, t, [out]);
			for (let i = 0; i < out.length; i++) {
				pollAt(i);
				out[i] = start + (end - start) * out[i];
			}
			return out;
		});
		return { geometry: deform(geometry, given, context, map) };
	}
});
