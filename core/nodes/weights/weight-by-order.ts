import { constant, element, operate } from '../../varying/index.ts';
import { choice, defineNode, number, yesNo } from '../define.ts';
import { clamped, oneMinus, weightOutput } from './weight-tools.ts';

export const weightByOrder = defineNode({
	id: 'weight-by-order',
	version: 1,
	name: 'Weight by order',
	family: 'weights',
	words: ['wipe', 'sequence', 'index', 'stagger', 'one by one', 'reveal', 'falloff', 'mask'],
	help: 'A wipe through the elements in their order: those before the front weigh 1, those after it 0.',
	inputs: {
		progress: number({
			label: 'Front',
			help: 'How far the front has come: 0 before the first, 1 past the last.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.005
		}),
		soft: number({
			label: 'Soft edge',
			help: 'How wide the front is, as a fraction of all elements.',
			default: 0.1,
			min: 0,
			max: 1,
			step: 0.01
		}),
		by: choice({
			label: 'Order',
			help: 'By the number of each element, or by its place along its curve.',
			default: 'index',
			options: [
				{ id: 'index', label: 'Their numbers' },
				{ id: 'u', label: 'Along the curve' }
			]
		}),
		reverse: yesNo({ label: 'Reverse', help: 'The last come first.', default: false })
	},
	outputs: { weight: weightOutput },
	run({ progress, soft, by, reverse }) {
		const along =
			by === 'u'
				? element('u')
				: operate('divide', [
						element('index'),
						operate('max', [operate('subtract', [element('count'), constant(1)]), constant(1)])
					]);
		const place = reverse ? oneMinus(along) : along;
		// The front starts wholly before the first element and ends wholly past the last.
		const front = constant(progress * (1 + soft));
		return {
			weight:
				soft > 0
					? clamped(operate('divide', [operate('subtract', [front, place]), constant(soft)]))
					: operate('less', [place, constant(progress === 1 ? 2 : progress)])
		};
	}
});
