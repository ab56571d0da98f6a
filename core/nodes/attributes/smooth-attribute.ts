import { NodeError } from '../../math/index.ts';
import type { Column, Geometry } from '../../geometry/index.ts';
import { WIDTH, pollAt, scratch, tableOf, withColumns, withTable } from '../../geometry/index.ts';
import { pairsIn, smoothed } from '../../kernels/relax.ts';
import { defineNode, geometry, number, output, text } from '../define.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';
import { attributeIn } from './attribute-tools.ts';

export const smoothAttribute = defineNode({
	id: 'smooth-attribute',
	version: 1,
	name: 'Smooth attribute',
	family: 'attributes',
	words: ['soften', 'diffuse', 'relax values'],
	help: 'Values of points drawn towards the mean of their neighbours along edges and curves, again and again.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'A mesh or curves whose points have the attribute.',
			needs: 'anything'
		}),
		name: text({ label: 'Name', help: 'The attribute.', default: '', attribute: true }),
		iterations: number({
			label: 'Iterations',
			help: 'How often.',
			default: 4,
			min: 0,
			max: 1000,
			slider: [0, 50],
			whole: true
		}),
		amount: number({
			label: 'Amount',
			help: 'How far towards the mean each time.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01
		}),
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with smoother values.') },
	run({ geometry, name, iterations, amount, ...given }, context) {
		if (!name) {
			context.warn('Name an attribute: nothing was smoothed yet.');
			return { geometry };
		}
		let out = geometry;
		let done = 0;
		for (const { part, column, table } of attributeIn(geometry, 'point', name, 'name')) {
			if (part !== 'mesh' && part !== 'curves') continue;
			if (!(column.data instanceof Float32Array))
				throw new NodeError(
					`“${name}” holds no numbers with parts between them, so it cannot be smoothed. Write it as “Number” first.`,
					{ input: 'name' }
				);
			const weights = weightsOn(context, given, { geometry, part, kind: 'point' });
			const share = scratch('float', table.count);
			for (let i = 0; i < share.length; i++) {
				pollAt(i);
				share[i] = weights[i] * amount;
			}
			const data = smoothed(column.data, WIDTH[column.type], pairsIn(geometry, part), share, iterations);
			out = withSmooth(out, part, name, { ...column, data });
			done++;
		}
		if (!done) context.warn('Loose points have no neighbours: nothing was smoothed.');
		return { geometry: out };
	}
});

const withSmooth = (geometry: Geometry, part: 'mesh' | 'curves', name: string, column: Column): Geometry =>
	withTable(geometry, part, 'point', withColumns(tableOf(geometry, part, 'point')!, { [name]: column }));
