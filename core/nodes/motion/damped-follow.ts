import { NodeError } from '../../math/index.ts';
import type { Geometry, Kind, Part, Table } from '../../geometry/index.ts';
import { allocate, column, floats, pollAt, withColumns, withTable, placedIn } from '../../geometry/index.ts';
import type { RememberedTable } from '../../kernels/remembered.ts';
import { bytesOf, carriedOn } from '../../kernels/remembered.ts';
import { springLag, springStep } from '../../kernels/spring.ts';
import { attributeIn } from '../attributes/attribute-tools.ts';
import type { Context } from '../define.ts';
import { choice, defineNode, geometry, number, output, text } from '../define.ts';
import { withMoved } from '../deform/deform-tools.ts';

/** For each number of each element where it is, how fast it goes, and where what it follows was. */
interface Following {
	readonly bytes: number;
	readonly tables: readonly RememberedTable[];
}

interface Given {
	geometry: Geometry;
	follows: string;
	name: string;
	stiffness: number;
	damping: number;
	mass: number;
}

interface Target {
	part: Part;
	kind: Kind;
	table: Table;
	/** The column that follows. */
	name: string;
	width: number;
	data: ArrayLike<number>;
}

/** The columns that are to follow. */
function targetsOf({ geometry, follows, name }: Given): Target[] {
	if (follows === 'attribute')
		return attributeIn(geometry, null, name, 'name')
			.slice(0, 1)
			.map(({ part, kind, table, column: { type, data } }) => {
				if (type === 'text' || type === 'bool' || type === 'int')
					throw new NodeError(`“${name}” is not a number that could follow: it is a ${type}.`, {
						input: 'name'
					});
				return { part, kind, table, name, width: data.length / Math.max(1, table.count), data };
			});
	const wanted = follows === 'rotation' ? 'orientation' : follows;
	return placedIn(geometry).flatMap(({ part, kind, table }): Target[] => {
		if (!table.count || !table.columns.has(wanted)) return [];
		const width = wanted === 'orientation' ? 4 : 3;
		return [{ part, kind, table, name: wanted, width, data: floats(table, wanted) }];
	});
}

/** 1 or −1: on which side of all turns one lies, seen from another. */
function sideOf(a: ArrayLike<number>, at: number, b: ArrayLike<number>, other: number): 1 | -1 {
	let dot = 0;
	for (let k = 0; k < 4; k++) dot += a[at + k] * b[other + k];
	return dot < 0 ? -1 : 1;
}

function followed(before: Following | null, given: Given, context: Context): Following {
	const { step } = context.moment;
	const { yy, yv, vy, vv } = springStep(given, step);
	const lag = springLag(given, step);
	const tables = targetsOf(given).map(({ part, kind, table, name, width, data }): RememberedTable => {
		let sum = 0;
		for (let i = 0; i < data.length; i++) {
			pollAt(i);
			// A number less itself is 0, unless it is none.
			sum += data[i] - data[i];
		}
		if (sum !== 0) throw new NodeError('Some of what is to be followed is not a number. Mend what comes in.');
		const was = before?.tables.find((one) => one.part === part && one.kind === kind);
		const isThere = was && was.data.length === was.count * 3 * width ? was : undefined;
		const state = carriedOn(isThere, table, 3 * width, (row, out) => {
			// What is new begins where it belongs, at rest.
			for (let k = 0; k < width; k++)
				out[3 * width * row + k] = out[3 * width * row + 2 * width + k] = data[width * row + k];
		});
		const isTurn = name === 'orientation';
		for (let i = 0; i < table.count && before; i++) {
			pollAt(i);
			const o = 3 * width * i;
			// A turn and its opposite are one; both go the shorter way.
			const side = isTurn ? sideOf(state, o, data, 4 * i) : 1;
			const from = isTurn ? sideOf(state, o, state, o + 2 * width) : 1;
			for (let k = 0; k < width; k++) {
				const target = side * data[width * i + k];
				const was = from * state[o + 2 * width + k];
				// What it follows went straight from there to here.
				const rate = (target - was) / step;
				const y = state[o + k] - was;
				const v = state[o + width + k];
				state[o + k] = target + yy * y + yv * v - lag * rate;
				state[o + width + k] = vy * y + vv * v + (1 - yy) * rate;
				state[o + 2 * width + k] = target;
			}
		}
		return { part, kind, count: table.count, ids: table.ids, data: state };
	});
	return { bytes: bytesOf(tables), tables };
}

export const dampedFollow = defineNode({
	id: 'damped-follow',
	// 2: what it follows goes straight from frame to frame; before, it stood where it arrived.
	version: 2,
	name: 'Damped follow',
	family: 'motion',
	words: ['delay', 'overshoot', 'lag', 'inertia', 'bounce', 'smooth', 'jiggle', 'swing'],
	help: 'Positions, rotations, scales or an attribute go after what comes in, as a mass on a spring does: late, and past it. Each element remembers where it was and how fast it went.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'Where everything should be.', needs: 'anything' }),
		follows: choice({
			label: 'Follows',
			help: 'What goes after it.',
			default: 'position',
			options: [
				{ id: 'position', label: 'Position' },
				{ id: 'rotation', label: 'Rotation of copies' },
				{ id: 'scale', label: 'Scale of copies' },
				{ id: 'attribute', label: 'An attribute' }
			]
		}),
		name: text({
			label: 'Name',
			help: 'The attribute that follows.',
			default: '',
			attribute: true,
			when: (s) => s.follows === 'attribute'
		}),
		stiffness: number({
			label: 'Stiffness',
			help: 'How strongly it is drawn there, in newtons a metre.',
			default: 60,
			min: 0.001,
			max: 1e9,
			slider: [1, 400]
		}),
		damping: number({
			label: 'Damping',
			help: 'How much is taken of its swing: 0 swings for ever.',
			default: 4,
			min: 0,
			max: 1e6,
			slider: [0, 40]
		}),
		mass: number({
			label: 'Mass',
			help: 'In kilograms: more is slower.',
			default: 1,
			min: 0.001,
			max: 1e6,
			slider: [0.1, 10]
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same, where it has got to.') },
	body: true,
	fold: {
		start: (inputs, context): Following => followed(null, inputs, context),
		step: (state: Following, inputs, context): Following => followed(state, inputs, context),
		give(state: Following, inputs) {
			let out = inputs.geometry;
			for (const { part, kind, table, name, width, data } of targetsOf(inputs)) {
				const own = state.tables.find((one) => one.part === part && one.kind === kind);
				const at = carriedOn(own, table, 3 * width, (row, to) => {
					for (let k = 0; k < width; k++) to[3 * width * row + k] = data[width * row + k];
				});
				const moved = allocate('float', table.count * width);
				for (let i = 0; i < table.count; i++) {
					pollAt(i);
					let length = 1;
					if (name === 'orientation') {
						length = 0;
						for (let k = 0; k < 4; k++) length += at[12 * i + k] * at[12 * i + k];
						length = Math.sqrt(length) || 1;
					}
					for (let k = 0; k < width; k++) moved[width * i + k] = at[3 * width * i + k] / length;
				}
				if (name === 'position' && inputs.follows === 'position') out = withMoved(out, part, kind, moved);
				else {
					const { type, role } = table.columns.get(name)!;
					out = withTable(out, part, kind, withColumns(table, { [name]: column(type, role, moved) }));
				}
			}
			return { geometry: out };
		}
	}
});
