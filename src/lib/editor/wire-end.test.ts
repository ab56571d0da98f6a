/** A wire that is let go is never lost without a word: it connects, asks, searches or says why not. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { fits, fitsInGraph, inputOf, inputsShown } from '../../../core/engine/index.ts';
import { nodeKinds } from '../../../core/nodes/index.ts';
import { generator } from '../../../core/testing/index.ts';
import { wireEnd } from './wire-end.ts';

const { main } = generator([
	['number', 'wide', {}],
	['grid', 'flat', {}],
	['displace', 'tide', {}, { geometry: 'flat.mesh' }],
	['sow-points', 'sowing', {}, { surface: 'tide.geometry' }],
	['row-of-points', 'row', {}],
	['place-copies', 'huts', {}],
	['result', 'result', {}]
]).graphs;
const id = (short: string) => main.nodes.find((node) => node.short === short)!.id;

test('over a node it connects to the one input that takes it, or asks which of several', () => {
	assert.deepEqual(wireEnd(main, [id('flat'), 'mesh'], true, id('result'), null), {
		does: 'connect',
		to: [id('result'), 'geometry']
	});
	assert.deepEqual(wireEnd(main, [id('sowing'), 'points'], true, id('huts'), null), {
		does: 'choose',
		node: id('huts')
	});
	const onGround = wireEnd(main, [id('wide'), 'value'], true, undefined, null);
	assert.deepEqual(onGround, { does: 'search', wanted: { takes: 'number' } });
	assert.equal(wireEnd(main, [id('flat'), 'mesh'], true, id('flat'), null), null, 'over its own node');
	assert.equal(wireEnd(main, ['gone', 'mesh'], true, id('huts'), null), null);
});

test('a refusal says why, also where it would make a circle', () => {
	const circle = wireEnd(main, [id('sowing'), 'points'], true, id('tide'), 'geometry');
	assert.ok(circle?.does === 'refuse' && /circle: tide → sowing → tide/.test(circle.reason));
	const none = wireEnd(main, [id('wide'), 'value'], true, id('result'), null);
	assert.deepEqual(none, { does: 'refuse', reason: 'result takes no value of this kind.' });
});

test('from an input, empty ground searches what gives what it takes; over a node nothing is meant', () => {
	const wanted = wireEnd(main, [id('huts'), 'source'], false, undefined, null);
	assert.ok(wanted?.does === 'search' && wanted.wanted.gives?.label === 'Source');
	assert.equal(wireEnd(main, [id('huts'), 'source'], false, id('flat'), null), null);
});

test('for every output over every node: what connects fits, and what is refused does not', () => {
	const said = { connect: 0, choose: 0, refuse: 0, search: 0 };
	for (const source of main.nodes)
		for (const [port, output] of Object.entries(
			nodeKinds.get(source.kind)!.outputs as Record<string, { kind: 'number' }>
		))
			for (const target of main.nodes) {
				if (target === source) continue;
				const end = wireEnd(main, [source.id, port], true, target.id, null)!;
				const takers = inputsShown(target).filter(([, input]) => fits(output.kind, input).fits);
				assert.equal(end.does, ['refuse', 'connect'][takers.length] ?? 'choose');
				said[end.does]++;
				for (const [name] of inputsShown(target)) {
					const onPort = wireEnd(main, [source.id, port], true, target.id, name)!;
					const fit = fitsInGraph(main, [source.id, port], [target.id, name]);
					assert.deepEqual(
						onPort,
						fit.fits ? { does: 'connect', to: [target.id, name] } : { does: 'refuse', reason: fit.reason }
					);
					assert.ok(inputOf(target, name));
				}
			}
	assert.ok(said.connect > 5 && said.choose > 10 && said.refuse > 5, JSON.stringify(said));
});
