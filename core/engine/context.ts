/** What nodes may use while they run: warnings, stopping, randomness, and values worked out on elements. */
import { NodeError, mixText } from '../math/index.ts';
import { allocate } from '../geometry/index.ts';
import type { Varying } from '../varying/index.ts';
import { elementsOf, run, streamWords } from '../varying/index.ts';
import type { Context, Where } from '../nodes/index.ts';
import type { EvaluatedColumns } from './evaluated-columns.ts';

export interface ContextParts {
	seed: number;
	/** The uses and passes on the way down. */
	path: string;
	/** The node's own stream. */
	stream: string;
	warn: Context['warn'];
	/** What the node’s inputs came to, by name. */
	inputs: Readonly<Record<string, unknown>>;
	rangesOf: (input: string) => boolean;
	columns: EvaluatedColumns;
	moment: Context['moment'];
	past?: Context['past'];
}

/** Makes the context of one run of one node. */
export function makeContext(parts: ContextParts): Context {
	const { seed, path, stream, warn, inputs, rangesOf, columns, moment, past = [] } = parts;
	/** Runs `work` on an input’s value; what goes wrong is told of that input. */
	const blaming = <Result>(value: Varying, work: () => Result): Result => {
		try {
			return work();
		} catch (error) {
			if (!(error instanceof NodeError) || error.input) throw error;
			const input = Object.keys(inputs).find((name) => inputs[name] === value);
			throw new NodeError(error.message, { input, fixes: error.fixes });
		}
	};
	const evaluate = <Data extends Float32Array | Uint8Array>(
		value: Varying,
		{ geometry, part, kind }: Where,
		width: 1 | 3,
		array: 'float' | 'byte'
	): Data => {
		const elements = elementsOf(geometry, part, kind);
		const work = () => {
			const data = allocate(array, elements.count * width);
			const said: string[] = [];
			run(value, elements, width, data, { warn: (message) => said.push(message) });
			return { data, said };
		};
		const kept = blaming(value, () => columns.take(value, elements, `${array} ${width} ${kind}`, work));
		kept.said.forEach((said) => warn(said));
		return kept.data as Data;
	};
	return {
		warn,
		moment,
		past,
		rangesOf,
		stream: (name = '') => streamWords(seed, path, name ? `${stream} ${mixText(0, name)}` : stream),
		numbers: (value, on) => evaluate<Float32Array>(value, on, 1, 'float'),
		vectors: (value, on) => evaluate<Float32Array>(value, on, 3, 'float'),
		yesNos: (value, on) => evaluate<Uint8Array>(value, on, 1, 'byte'),
		numbersOn(value, elements, width = 1) {
			const data = allocate('double', width * elements.count);
			blaming(value, () => run(value, elements, width, data, { warn }));
			return data;
		}
	};
}
