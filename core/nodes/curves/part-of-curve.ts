import {
	Growing,
	curveCount,
	lengthsAlong,
	makeTable,
	allocate,
	column,
	gatherTable,
	pollAt
} from '../../geometry/index.ts';
import type { Column, Curves } from '../../geometry/index.ts';
import { readAt } from '../../kernels/resample-curves.ts';
import type { Places } from '../../kernels/resample-curves.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';

export const partOfCurve = defineNode({
	id: 'part-of-curve',
	version: 1,
	name: 'Part of curve',
	family: 'curves',
	words: ['trim', 'cut', 'shorten', 'grow', 'spline', 'path'],
	help: 'Keeps a part of every curve, from one place along it to another, exactly. Closed curves become open.',
	renamed: [{ before: 2, id: 'trim-curve' }],
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The curves of which a part is kept.', needs: 'curves' }),
		by: choice({
			label: 'By',
			help: 'As fractions of the length, or in metres.',
			default: 'share',
			options: [
				{ id: 'share', label: 'Fraction (u)' },
				{ id: 'length', label: 'Length' }
			]
		}),
		from: number({
			label: 'From',
			help: 'Where the part begins.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'curve',
			when: (s) => s.by === 'share'
		}),
		to: number({
			label: 'To',
			help: 'Where it ends.',
			default: 1,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'curve',
			when: (s) => s.by === 'share'
		}),
		start: number({
			label: 'From the start',
			help: 'What is taken off at the start.',
			default: 0,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			varies: 'curve',
			when: (s) => s.by === 'length'
		}),
		end: number({
			label: 'From the end',
			help: 'What is taken off at the end.',
			default: 0,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			varies: 'curve',
			when: (s) => s.by === 'length'
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The parts.') },
	run({ curve, by, from, to, start, end }, context) {
		const curves = curve.curves!;
		const where = { geometry: curve, part: 'curves', kind: 'curve' } as const;
		const { lengths } = lengthsAlong(curves);
		const low = context.numbers(by === 'share' ? from : start, where),
			high = context.numbers(by === 'share' ? to : end, where);
		const made =
			by === 'share'
				? trimmed(
						curves,
						(c) => low[c] * lengths[c],
						(c) => high[c] * lengths[c]
					)
				: trimmed(
						curves,
						(c) => low[c],
						(c) => lengths[c] - high[c]
					);
		const lost = curveCount(curves) - curveCount(made);
		if (lost)
			context.warn(
				`${lost === 1 ? 'One curve has' : `${lost} curves have`} ${by === 'share' ? 'nothing left between “From” and “To”' : 'nothing left after “From the start” and “From the end”'}.`
			);
		return { curve: { ...curve, curves: made } };
	}
});

/** Parts of curves between two lengths; a part without length is left out. */
function trimmed(curves: Curves, low: (c: number) => number, high: (c: number) => number): Curves {
	const { along, lengths } = lengthsAlong(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const from = new Growing('index'),
		to = new Growing('index'),
		share = new Growing('float');
	const starts = new Growing('index');
	const kept = new Growing('index');
	starts.push(0);
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		const a = Math.max(0, low(c)),
			b = Math.min(lengths[c], high(c));
		if (!(b > a)) continue;
		const push = (s: number) => {
			let i = first;
			while (i < last && along[i + 1] <= s) i++;
			const next = i < last ? i + 1 : closed[c] ? first : last;
			const span = (i < last ? along[i + 1] : lengths[c]) - along[i];
			from.push(i);
			to.push(next);
			share.push(span > 0 ? Math.min(1, (s - along[i]) / span) : 0);
		};
		push(a);
		for (let i = first; i <= last; i++)
			if (along[i] > a && along[i] < b) {
				from.push(i);
				to.push(i);
				share.push(0);
			}
		push(b);
		starts.push(from.length);
		kept.push(c);
	}
	const places: Places = { from: from.take(), to: to.take(), share: share.take() };
	const columns: Record<string, Column> = {};
	for (const [name, source] of curves.points.columns) columns[name] = readAt(source, places);
	const table = gatherTable(curves.curves, kept.view());
	return {
		points: makeTable(from.length, columns),
		curves: {
			...table,
			columns: new Map([...table.columns, ['closed', column('bool', 'plain', allocate('byte', kept.length))]])
		},
		starts: starts.take()
	};
}
