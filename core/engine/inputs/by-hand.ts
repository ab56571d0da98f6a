/** What is set by hand and takes no wire: choices, texts, files and drawn curves. */
import { z } from 'zod';
import { NodeError } from '../../math/index.ts';
import type { AssetInput, ChoiceInput, PathInput, TextInput } from '../../nodes/index.ts';
import type { Setting } from '../document.ts';
import { isPath, pathSetting, textSetting } from '../document.ts';
import type { InputKind } from './kind.ts';
import { takesNoWire } from './kind.ts';

export const choiceKind: InputKind<ChoiceInput> = {
	schema: z.string().max(80),
	takes: 'one of its choices',
	isNumeric: false,
	field: 'choice',
	start: (input) => input.default,
	fits: takesNoWire,
	resolve({ label, options, default: first }, { setting, name, warn }) {
		if (options.some(({ id }) => id === setting)) return setting;
		warn(`“${label}” does not know the choice “${String(setting).slice(0, 40)}”; “${first}” is used.`, name);
		return first;
	},
	read({ options }, text) {
		if (options.some(({ id }) => id === text)) return text;
		throw new NodeError(`takes one of: ${options.map(({ id }) => id).join(', ')}.`);
	}
};

export const textKind: InputKind<TextInput> = {
	schema: textSetting,
	takes: 'a text',
	isNumeric: false,
	field: 'text',
	start: (input) => input.default,
	fits: takesNoWire,
	resolve: (_, { setting }) => (typeof setting === 'string' ? setting : ''),
	read: (_, text) => text
};

/** A file that is not at hand: it may come, so what fails for want of it is tried again. */
export class MissingFile extends NodeError {
	constructor(input: string) {
		super('The imported file is not here any more. Choose it again.', { input });
	}
}

/** An imported file, by its digest; none is chosen at first. */
export const assetKind: InputKind<AssetInput> = {
	schema: z.string().max(200),
	takes: 'a file',
	isNumeric: false,
	field: 'file',
	start: () => '',
	fits: takesNoWire,
	resolve(_, at) {
		if (!at.setting || typeof at.setting !== 'string') return null;
		const found = at.asset(at.setting);
		if (found) return found;
		throw new MissingFile(at.name);
	}
};

export const pathKind: InputKind<PathInput> = {
	schema: pathSetting,
	takes: 'a drawn curve',
	isNumeric: false,
	field: 'path',
	start: (input) => structuredClone(input.default) as Setting,
	fits: takesNoWire,
	resolve: (input, { setting }) => (isPath(setting) ? setting.path : input.default.path)
};
