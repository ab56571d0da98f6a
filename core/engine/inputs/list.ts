/** A list, by wire only. */
import { NodeError } from '../../math/index.ts';
import type { ListInput } from '../../nodes/index.ts';
import { isList } from '../values.ts';
import type { InputKind } from './kind.ts';
import { FITS, refuse } from './kind.ts';
import { Incomplete } from './waiting.ts';

export const listKind: InputKind<ListInput> = {
	schema: null,
	takes: 'a list',
	isNumeric: false,
	field: 'wires',
	start: () => null,
	fits(from, { label }) {
		if (from === 'list') return FITS;
		if (from === 'geometry') return refuse(`“${label}” takes a list; this gives geometry.`, 'even-steps');
		return refuse(
			`“${label}” takes a list; one varying value has no length. Make a list with “Even steps”.`,
			'even-steps'
		);
	},
	resolve({ label, optional, many }, at) {
		const found = at.wired().map((made) => {
			if (isList(made)) return made;
			throw new NodeError(`“${label}” takes a list; one varying value has no length.`, { input: at.name });
		});
		if (!found.length && !optional) throw new Incomplete(`Connect a list to “${label}”.`, at.name);
		return many ? found : (found.at(-1) ?? null);
	}
};
