/** What the samples hand to their users holds: every dial is read, every preset and kept variation is another result. */
import assert from 'node:assert/strict';
import test from 'node:test';
import { digestOf } from './geometry/index.ts';
import { isGeometry, resultNode, troubleOfDial, withKeptTaken, withPresetTaken } from './engine/index.ts';
import type { GeneratorDocument } from './engine/index.ts';
import { SAMPLES, sample } from './testing/samples.ts';

for (const file of SAMPLES) {
	const { document, by } = sample(file);
	test(`${document.name}: dials are read, three presets and three kept variations differ`, () => {
		assert.ok(document.dials.length >= 2, 'dials');
		for (const { key, name } of document.dials) assert.equal(troubleOfDial(document, key), null, name);
		const hash = (of: GeneratorDocument): string => {
			const { id } = resultNode(of)!;
			const result = by.evaluate(of, [id]).results.get(id)!;
			assert.equal(result.error, null, `${document.name}: ${result.error?.message}`);
			return digestOf([...result.outputs.values()].find(isGeometry)!);
		};
		const silent = (sentence: string) => assert.fail(sentence);
		const presets = document.presets.map(({ id }) => hash(withPresetTaken(document, id, silent)));
		assert.ok(presets.length >= 3 && new Set(presets).size === presets.length, 'presets');
		const kept = document.kept.map(({ id }) => hash(withKeptTaken(document, id, silent)));
		assert.ok(kept.length >= 3 && new Set(kept).size === kept.length, 'kept variations');
		// The first preset is the sample as it opens.
		assert.equal(presets[0], hash(document), 'the first preset is how it opens');
	});
}
