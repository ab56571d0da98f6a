import { choice, defineNode, geometry, number, text, vector, yesNo } from '../define.ts';

type Settings = Record<string, unknown>;

const carries = choice({
	label: 'Carries',
	help: 'What flows there.',
	default: 'geometry',
	options: [
		{ id: 'geometry', label: 'Geometry' },
		{ id: 'number', label: 'Numbers' },
		{ id: 'whole', label: 'Whole numbers' },
		{ id: 'vector', label: 'Vectors' },
		{ id: 'yesno', label: 'Yes or no' },
		{ id: 'colour', label: 'Colours' },
		{ id: 'value', label: 'Values of any kind' },
		{ id: 'list', label: 'A list' },
		{ id: 'ramp', label: 'A ramp' }
	]
});

const says = text({
	label: 'Help',
	help: 'What whoever uses the subgraph should know of it.',
	default: '',
	long: true
});

const isNumber = ({ carries }: Settings): boolean => carries === 'number' || carries === 'whole';

export const bodyInput = defineNode({
	id: 'input',
	version: 2,
	name: 'Input',
	family: 'repeat',
	words: ['port', 'parameter', 'argument'],
	withNothing: 'It waits for what arrives where its body is used.',
	help: 'An input of the body in which it stands: gives what arrives there. Formulas inside speak of it by its short name, such as height.value.',
	inputs: {
		name: text({
			label: 'Name',
			help: 'What the input is called where the body is used.',
			default: 'geometry'
		}),
		carries,
		role: choice({
			label: 'In a repeat',
			help: 'What arrives there in each pass of a repeat. Carried: what came out by the same name goes in again.',
			default: 'same',
			options: [
				{ id: 'same', label: 'The same in each pass' },
				{ id: 'carried', label: 'Carried from pass to pass' },
				{ id: 'counted', label: 'One of several in each pass' }
			]
		}),
		default: number({
			label: 'Default',
			help: 'The number that stands there where nothing is connected.',
			default: 0,
			when: isNumber
		}),
		defaultParts: vector({
			label: 'Default',
			help: 'What stands there where nothing is connected.',
			default: [0, 0, 0],
			when: ({ carries }) => carries === 'vector' || carries === 'colour'
		}),
		defaultYes: yesNo({
			label: 'Default',
			help: 'What stands there where nothing is connected.',
			default: false,
			when: ({ carries }) => carries === 'yesno'
		}),
		otherwise: geometry({
			label: 'Otherwise',
			help: 'What stands there where nothing is connected.',
			needs: 'anything',
			optional: true,
			when: ({ carries }: Settings) => carries === undefined || carries === 'geometry'
		}),
		unit: choice({
			label: 'Unit',
			help: 'Shown behind the number.',
			default: '',
			options: [
				{ id: '', label: 'None' },
				{ id: 'm', label: 'Metres' },
				{ id: '°', label: 'Degrees' },
				{ id: '×', label: 'Times' },
				{ id: 's', label: 'Seconds' }
			],
			when: isNumber
		}),
		limited: yesNo({
			label: 'Has limits',
			help: 'Whether the number has a least and a greatest.',
			default: false,
			when: isNumber
		}),
		minimum: number({
			label: 'Minimum',
			help: 'The least that it may be.',
			default: 0,
			when: (s) => isNumber(s) && s.limited === true
		}),
		maximum: number({
			label: 'Maximum',
			help: 'The greatest that it may be.',
			default: 1,
			when: (s) => isNumber(s) && s.limited === true
		}),
		says
	},
	outputs: {},
	body: true,
	ownPorts: true,
	inBodies: true
});

export const bodyOutput = defineNode({
	id: 'output',
	version: 2,
	name: 'Output',
	family: 'repeat',
	words: ['port', 'return'],
	withNothing: 'It waits for something to be connected.',
	help: 'An output of the body in which it stands: what is connected here leaves it.',
	inputs: {
		name: text({
			label: 'Name',
			help: 'What the output is called where the body is used.',
			default: 'geometry'
		}),
		carries,
		role: choice({
			label: 'In a repeat',
			help: 'What of all passes leaves a repeat. Gathered: each element knows its “pass”.',
			default: 'last',
			options: [
				{ id: 'last', label: 'The last pass' },
				{ id: 'gathered', label: 'All passes in one' },
				{ id: 'ends', label: 'Ends the repeat where yes' }
			]
		}),
		says
	},
	outputs: {},
	body: true,
	ownPorts: true,
	inBodies: true
});
