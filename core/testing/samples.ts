/**
 * The samples, each opened once and evaluated by one evaluator for all tests of a process: what one has worked out, the next
 * finds. Whoever wants a fresh start takes an evaluator of his own.
 */
import { readFileSync, readdirSync } from 'node:fs';
import { Evaluator, openDocument } from '../engine/index.ts';
import type { GeneratorDocument } from '../engine/index.ts';
import { unpackGenerator } from '../formats/index.ts';
import type { Asset } from '../geometry/asset.ts';
import { evaluateAll } from './graphs.ts';
import type { Run } from './graphs.ts';

export const SAMPLES: readonly string[] = readdirSync('samples').filter((name) => name.includes('.embrell.'));

export interface Sample {
	document: GeneratorDocument;
	leftOut: readonly string[];
	/** Finds its assets. */
	asset: (hash: string) => Asset | null;
	/** The evaluator that all share. */
	by: Evaluator;
	/** What all its nodes give. */
	run: () => Run;
}

const opened = new Map<string, Sample>();

/** @param name of a file in `samples/`, with or without its endings */
export function sample(name: string): Sample {
	const file = SAMPLES.find((one) => one === name || one.startsWith(`${name}.`));
	if (!file) throw new Error(`No sample is called ${name}.`);
	const known = opened.get(file);
	if (known) return known;
	const { text, assets } = unpackGenerator(new Uint8Array(readFileSync(`samples/${file}`)), file);
	const { document, leftOut } = openDocument(text);
	const asset = (hash: string): Asset | null => {
		const bytes = assets.get(hash);
		return bytes ? { hash, bytes, name: document.assets[hash]?.name ?? hash } : null;
	};
	const by = new Evaluator({ asset });
	const made = { document, leftOut, asset, by, run: () => evaluateAll(document, {}, by) };
	opened.set(file, made);
	return made;
}
