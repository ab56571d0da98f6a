import { NodeError } from '../../math/index.ts';
import { scratch } from '../../geometry/index.ts';
import { choice, defineNode, output, text } from '../define.ts';
import { listOf, listOfTexts } from '../list.ts';

const YES = new Set(['yes', 'true', 'on']);
const NO = new Set(['no', 'false', 'off']);

export const listFromText = defineNode({
	id: 'list-from-text',
	version: 1,
	name: 'List from text',
	family: 'values',
	words: ['paste', 'type', 'words', 'strings', 'names', 'csv', 'values by hand'],
	help: 'A list from what is typed or pasted: a value on each line, or several with commas between. Numbers, yes and no, or words.',
	inputs: {
		text: text({
			label: 'Text',
			help: 'One value a line, or with commas between them.',
			default: '3, 1, 4, 1, 5',
			placeholder: '3, 1, 4',
			long: true
		}),
		type: choice({
			label: 'Type',
			help: 'What the values are. By content: numbers where all of them are, yes and no where all of them are, else words.',
			default: 'auto',
			options: [
				{ id: 'auto', label: 'By content' },
				{ id: 'number', label: 'Numbers' },
				{ id: 'yesno', label: 'Yes and no' },
				{ id: 'text', label: 'Words' }
			]
		})
	},
	outputs: { list: output('list', 'List', 'The values in order.') },
	run({ text, type }) {
		const values = text
			.split(/[\n,]/)
			.map((value) => value.trim())
			.filter(Boolean);
		const is = (test: (value: string) => boolean) => values.length > 0 && values.every(test);
		const found =
			type !== 'auto' ? type : is(isNumber) || !values.length ? 'number' : is(isYesOrNo) ? 'yesno' : 'text';
		if (found === 'text') return { list: listOfTexts(values) };
		const test = found === 'number' ? isNumber : isYesOrNo;
		const wrong = values.findIndex((value) => !test(value));
		if (wrong >= 0)
			throw new NodeError(
				`Value ${wrong + 1}, “${values[wrong].slice(0, 40)}”, is ${found === 'number' ? 'not a number' : 'neither yes nor no'}. Mend it, or choose the type “Words”.`,
				{ input: 'text' }
			);
		const data = scratch('double', values.length);
		values.forEach((value, i) => (data[i] = found === 'number' ? Number(value) : Number(isYes(value))));
		return { list: listOf(found === 'number' ? 'number' : 'yesno', data) };
	}
});

const isNumber = (value: string): boolean => Number.isFinite(Number(value)) && /^[-+.\d]/.test(value);
const isYes = (value: string): boolean => YES.has(value.toLowerCase());
const isYesOrNo = (value: string): boolean => isYes(value) || NO.has(value.toLowerCase());
