/** A varying value where one value for the whole node is asked. */
import { NodeError } from '../../math/index.ts';
import type { InputDefinition } from '../../nodes/index.ts';
import type { Varying } from '../../varying/index.ts';
import {
	constantNumber,
	fixesOfName,
	nearestName,
	partsOf,
	run,
	singleElement
} from '../../varying/index.ts';
import type { Arriving } from './kind.ts';

/** The three numbers of a value that is the same everywhere. */
export function singleVector(value: Varying, input: InputDefinition, at: Arriving): [number, number, number] {
	checkSingle(value, input, at);
	const out = new Float64Array(3);
	run(value, singleElement(), 3, out, { warn: (message) => at.warn(message, at.name) });
	return [out[0], out[1], out[2]];
}

/** The number of a value that is the same everywhere. */
export function singleNumber(value: Varying, input: InputDefinition, at: Arriving): number {
	if (value.op === 'constant') return constantNumber(value);
	checkSingle(value, input, at);
	const out = new Float64Array(1);
	run(value, singleElement(), 1, out, { warn: (message) => at.warn(message, at.name) });
	return out[0];
}

function checkSingle(value: Varying, { label }: InputDefinition, at: Arriving): void {
	if (value.constant) return;
	const refuse = (why: string, more = {}): never => {
		throw new NodeError(`“${label}” is one value for the whole node${why}`, { input: at.name, ...more });
	};
	for (const { op, value: what, list } of partsOf(value)) {
		if (op === 'attribute') {
			const unknown = String(what);
			const near = nearestName(unknown, [...NAMES_EVERYWHERE, ...at.shorts()]);
			refuse(`, and no “${unknown}” is known here.${near ? ` Did you mean “${near}”?` : ''}`, {
				fixes: fixesOfName(unknown, near)
			});
		}
		if (op === 'element') refuse(`, but “${String(what)}” differs from element to element.`);
		if (op === 'list' && list!.length > (what as number))
			refuse(`; a list of ${list!.length / (what as number)} came.`);
	}
}

const NAMES_EVERYWHERE = ['pi', 'tau', 'golden', 'goldenAngle', 'seed'];
