import { NodeError } from '../../math/index.ts';
import type { Varying } from '../../varying/index.ts';
import { constant, constantNumber, operate } from '../../varying/index.ts';
import { choice, defineNode, geometry, list, number, output, text, value } from '../define.ts';

export const chooseInput = defineNode({
	id: 'choose-input',
	version: 1,
	name: 'Choose input',
	family: 'values',
	words: ['switch', 'select', 'if', 'branch', 'option', 'toggle', 'variant', 'multiplex'],
	help: 'Hands one of its inputs on: by a yes or no (0 or 1), by a whole number from 0, or by a name. What is not chosen is not worked out. Of values each element may choose for itself.',
	withNothing: 'With nothing connected it waits for what is to be chosen from.',
	example: { wires: { geometries: 'hut' } },
	inputs: {
		of: choice({
			label: 'Of',
			help: 'What is chosen from.',
			default: 'geometry',
			options: [
				{ id: 'geometry', label: 'Geometry' },
				{ id: 'value', label: 'Values' },
				{ id: 'list', label: 'Lists' }
			]
		}),
		geometries: geometry({
			label: 'Geometries',
			help: 'In the order of their wires, the first is number 0.',
			needs: 'anything',
			many: true,
			optional: true,
			when: (s: Record<string, unknown>) => s.of === 'geometry'
		}),
		values: value({
			label: 'Values',
			help: 'In the order of their wires, the first is number 0.',
			default: 0,
			varies: 'point',
			many: true,
			when: (s: Record<string, unknown>) => s.of === 'value'
		}),
		lists: list({
			label: 'Lists',
			help: 'In the order of their wires, the first is number 0.',
			many: true,
			optional: true,
			when: (s: Record<string, unknown>) => s.of === 'list'
		}),
		by: choice({
			label: 'By',
			help: 'How it is chosen.',
			default: 'number',
			options: [
				{ id: 'number', label: 'Number' },
				{ id: 'name', label: 'Name' }
			]
		}),
		number: number({
			label: 'Number',
			help: '0 is the first; a no is 0 and a yes is 1. After the last it begins again.',
			default: 0,
			whole: true,
			varies: 'point',
			when: (s) => s.by === 'number'
		}),
		names: text({
			label: 'Names',
			help: 'A name for each input, in their order, with commas between them.',
			default: 'ebb, flood',
			when: (s) => s.by === 'name'
		}),
		name: text({
			label: 'Name',
			help: 'The one that is chosen.',
			default: 'ebb',
			when: (s) => s.by === 'name'
		})
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'The geometry that was chosen.'),
		value: output('value', 'Value', 'The value that was chosen.'),
		list: output('list', 'List', 'The list that was chosen.')
	},
	picks: {
		among: ['geometries', 'values', 'lists'],
		from: ({ of }) => INPUTS[String(of ?? 'geometry')],
		by: ['of', 'by', 'number', 'names', 'name'],
		place(inputs, count) {
			if (inputs.by === 'name') return Math.min(count - 1, placeOf(inputs as unknown as Named));
			const given = inputs.number as Varying;
			if (!given.constant) {
				if (inputs.of === 'value') return null;
				throw new NodeError(EACH, { input: 'number' });
			}
			return wrapped(constantNumber(given), count);
		}
	},
	run({ of, geometries, values, lists, by, number, names, name }) {
		if (by === 'name') placeOf({ names, name });
		else if (of !== 'value' && !number.constant) throw new NodeError(EACH, { input: 'number' });
		if (of === 'geometry') return { geometry: chosen(geometries, 'geometries') } as never;
		if (of === 'list') return { list: chosen(lists, 'lists') } as never;
		if (by === 'name' || number.constant) return { value: chosen(values, 'values') } as never;
		return { value: forEach(number, values) } as never;
	}
});

const INPUTS: Readonly<Record<string, string>> = { geometry: 'geometries', value: 'values', list: 'lists' };
const EACH =
	'“Number” differs from element to element; only values can be chosen for each. Set one number, or choose “Values”.';

interface Named {
	names: string;
	name: string;
}

function placeOf({ names, name }: Named): number {
	const all = names.split(/[,\n]/).map((one) => one.trim());
	const place = all.indexOf(name.trim());
	if (place < 0)
		throw new NodeError(
			`There is no “${name}” among “Names”: ${all.filter(Boolean).join(', ') || 'they are empty'}.`,
			{
				input: 'name'
			}
		);
	return place;
}

const wrapped = (number: number, count: number): number => {
	const whole = Math.floor(number + 0.5);
	return ((whole % count) + count) % count;
};

function chosen<One>(some: readonly One[], input: string): One {
	if (!some.length) throw new NodeError('Connect what is to be chosen from.', { input });
	return some[0];
}

/** For each element one of several values, by its number. */
function forEach(number: Varying, values: readonly Varying[]): Varying {
	chosen(values, 'values');
	const count = constant(values.length);
	const place = operate('mod', [operate('floor', [operate('add', [number, constant(0.5)])]), count]);
	return values.reduceRight((others, one, i) =>
		operate('choose', [operate('less', [place, constant(i + 0.5)]), one, others])
	);
}
