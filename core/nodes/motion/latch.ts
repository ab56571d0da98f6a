import type { Geometry, Kind } from '../../geometry/index.ts';
import { allocate, column, pollAt, tablesOf, withColumns, withTable } from '../../geometry/index.ts';
import type { RememberedTable } from '../../kernels/remembered.ts';
import { bytesOf, carriedOn } from '../../kernels/remembered.ts';
import { sweptBetween } from '../../kernels/swept-zone.ts';
import type { Varying } from '../../varying/index.ts';
import { attribute, constantNumber } from '../../varying/index.ts';
import { ELEMENTS, checkNewName, kindChoice } from '../attributes/attribute-tools.ts';
import type { Context, Where } from '../define.ts';
import { choice, defineNode, geometry, number, output, text, value, yesNo } from '../define.ts';

/** What was reached, and when it was reached last, for each element. */
interface Latched {
	readonly bytes: number;
	readonly tables: readonly RememberedTable[];
	/** The zone that it was latched by, at this frame; nothing else is held on to. */
	readonly zone: Varying | null;
}

interface Given {
	geometry: Geometry;
	when: Varying;
	elements: string;
	keeps: string;
	threshold: number;
	fades: boolean;
	fadeAfter: number;
	fadeOver: number;
	release: Varying;
	name: string;
}

const [REACHED, SINCE] = [0, 1];
/** Whether a value is a zone by itself, of which what it sweeps is known. */
const isZone = ({ field }: Varying): boolean => field?.kind === 'zone';

function latchedAt(before: Latched | null, given: Given, context: Context): Latched {
	const { geometry, when, keeps, threshold, release } = given;
	const kind = given.elements as Kind;
	const { time } = context.moment;
	// From the frame before to this: what a zone swept, its place now among it, or else what was looked at in steps.
	const swept = before?.zone ? sweptBetween(before.zone, when) : null;
	const looked = swept ? [swept] : [when, ...context.past.map(({ inputs }) => inputs.when as Varying)];
	const tables = tablesOf(geometry, kind).map(({ part, table }): RememberedTable => {
		const where: Where = { geometry, part, kind };
		const was = before?.tables.find((one) => one.part === part && one.kind === kind);
		const data = carriedOn(was, table, 2, () => {});
		const weights = looked.map((one) => context.numbers(one, where));
		const letGo = release.constant ? null : context.yesNos(release, where);
		const isLetGo = release.constant && constantNumber(release) !== 0;
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			let most = 0;
			for (const numbers of weights) if (numbers[i] > most) most = numbers[i];
			const reached = keeps === 'most' ? Math.min(1, most) : most >= threshold && most > 0 ? 1 : 0;
			if (reached > 0 && reached >= data[2 * i + REACHED]) {
				data[2 * i + REACHED] = reached;
				data[2 * i + SINCE] = time;
			}
			if (letGo ? letGo[i] : isLetGo) data[2 * i + REACHED] = 0;
		}
		return { part, kind, count: table.count, ids: table.ids, data };
	});
	return { bytes: bytesOf(tables), tables, zone: isZone(when) ? when : null };
}

export const latch = defineNode({
	id: 'latch',
	// 2: what a zone sweeps while it turns.
	version: 2,
	name: 'Latch',
	family: 'motion',
	words: ['trigger', 'activate', 'stay', 'remember', 'once', 'hold on', 'switch on'],
	help: 'A weight that stays once it has been reached: what a zone has swept stays swept, also what it passed between two frames. It may fade again after a time, or be let go of.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'Of whose elements it is remembered.', needs: 'anything' }),
		when: value({
			label: 'When',
			help: 'A yes or no, or a weight: what is to be reached.',
			default: 0,
			varies: 'point'
		}),
		elements: kindChoice('Elements', 'The kind of element that remembers it.', 'point'),
		keeps: choice({
			label: 'Keeps',
			help: 'A yes once the threshold is reached, or the most that was reached.',
			default: 'yes',
			options: [
				{ id: 'yes', label: 'A yes' },
				{ id: 'most', label: 'The most it reached' }
			]
		}),
		threshold: number({
			label: 'Threshold',
			help: 'What must be reached.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01,
			when: (s) => s.keeps !== 'most'
		}),
		fades: yesNo({ label: 'Fades', help: 'Whether it goes down again after a time.', default: false }),
		fadeAfter: number({
			label: 'Fade after',
			help: 'So long it stays.',
			default: 1,
			min: 0,
			slider: [0, 10],
			unit: 's',
			when: (s) => s.fades === true
		}),
		fadeOver: number({
			label: 'Fade over',
			help: 'So long it takes to go down.',
			default: 0.5,
			min: 0,
			slider: [0, 5],
			unit: 's',
			when: (s) => s.fades === true
		}),
		release: yesNo({
			label: 'Let go',
			help: 'Where this says yes, it is forgotten.',
			default: false,
			varies: 'point'
		}),
		between: number({
			label: 'Steps between frames',
			help: 'So often it is looked at from one frame to the next. A zone by itself needs none: what it sweeps is known.',
			default: 4,
			min: 1,
			max: 64,
			whole: true
		}),
		name: text({
			label: 'Name',
			help: 'The attribute in which it is carried.',
			default: 'latched',
			attribute: true
		})
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'The same, carrying the weight.'),
		weight: output('number', 'Weight', 'From 0 to 1, on whatever comes of this geometry.')
	},
	body: true,
	fold: {
		start: (inputs, context): Latched => latchedAt(null, inputs, context),
		step: (state: Latched, inputs, context): Latched => latchedAt(state, inputs, context),
		// What a zone by itself sweeps is known without looking.
		steps: ({ when, between }) => (isZone(when) ? 1 : between),
		give(state: Latched, inputs, context) {
			const { geometry, fades, fadeAfter, fadeOver, name } = inputs;
			checkNewName(name, 'name');
			const kind = inputs.elements as Kind;
			const { time } = context.moment;
			const tables = tablesOf(geometry, kind);
			if (!tables.length) context.warn(`There are no ${ELEMENTS[kind]} here, so nothing is remembered.`);
			let out = geometry;
			for (const { part, table } of tables) {
				const own = state.tables.find((one) => one.part === part && one.kind === kind);
				const data = own ? carriedOn(own, table, 2, () => {}) : allocate('double', 2 * table.count);
				const weights = allocate('float', table.count);
				for (let i = 0; i < table.count; i++) {
					pollAt(i);
					const gone = time - data[2 * i + SINCE] - fadeAfter;
					const left = !fades || gone <= 0 ? 1 : fadeOver > 0 ? Math.max(0, 1 - gone / fadeOver) : 0;
					weights[i] = data[2 * i + REACHED] * left;
				}
				out = withTable(out, part, kind, withColumns(table, { [name]: column('float', 'plain', weights) }));
			}
			return { geometry: out, weight: attribute(name) };
		}
	}
});
