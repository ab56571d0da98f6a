/** The client of the evaluation worker, with a worker that answers when the test says so: who is ended, asked and answered. */
import assert from 'node:assert/strict';
import { afterEach, beforeEach, describe, mock, test } from 'node:test';
import { newDocument, newNode, withSetting } from '$core/engine/index';
import type { GeneratorDocument } from '$core/engine/index';
import { UNSAID } from '$core/session/look';
import type { Answer, Request } from '$core/session/messages';
import '$lib/testing/browser';
import type { PageLook } from './client';
import { EvaluationClient } from './client';

/** A worker of which the test sees what it is told, and says what it answers. */
class Told {
	static all: Told[] = [];
	readonly requests: Request[] = [];
	isEnded = false;
	onmessage: ((event: { data: Answer }) => void) | null = null;
	constructor() {
		Told.all.push(this);
	}
	postMessage(request: Request): void {
		this.requests.push(request);
	}
	terminate(): void {
		this.isEnded = true;
	}
	say(answer: object): void {
		this.onmessage?.({ data: answer as Answer });
	}
	/** The revisions that it was asked to evaluate. */
	get asked(): { revision: number; ended?: readonly string[] }[] {
		return this.requests.filter((one) => one.kind === 'evaluate');
	}
}
const last = (): Told => Told.all[Told.all.length - 1];
const running = (): number => Told.all.filter(({ isEnded }) => !isEnded).length;

const LOOK: PageLook = { ...UNSAID, frame: 1 };
const box = newNode(newDocument().graphs.main, 'box', [0, 0]);
const document = (size: number): GeneratorDocument => {
	const empty = newDocument('Quay');
	const graph = withSetting({ ...empty.graphs.main, nodes: [box] }, box.id, 'size', [size, 1, 1]);
	return { ...empty, graphs: { main: graph } };
};
function opened() {
	const heard = { busy: [] as boolean[], restarted: [] as (string | null)[] };
	const client = new EvaluationClient({
		answer: () => {},
		busy: (busy) => heard.busy.push(busy),
		restarted: (node) => heard.restarted.push(node)
	});
	return { client, heard };
}
const done = (worker: Told) =>
	worker.say({ kind: 'reports', revision: worker.asked.at(-1)!.revision, reports: [] });

const others = { Worker: globalThis.Worker };
describe('the client of the worker', () => {
	beforeEach(() => {
		Told.all = [];
		Object.assign(globalThis, { Worker: Told });
		mock.timers.enable({ apis: ['setTimeout', 'setInterval'] });
	});
	afterEach(() => {
		mock.timers.reset();
		Object.assign(globalThis, others);
	});

	test('closed while it is being stopped, no other worker is begun, now or later', () => {
		const { client, heard } = opened();
		client.evaluate(document(1), LOOK);
		client.stop();
		client.close();
		mock.timers.tick(60_000);
		assert.deepEqual([Told.all.length, running(), heard.restarted], [1, 0, []]);
		client.evaluate(document(2), LOOK);
		client.stop();
		mock.timers.tick(60_000);
		assert.equal(Told.all.length, 1);
		// An answer that was on its way changes nothing.
		Told.all[0].onmessage = null;
	});

	test('what was asked is answered, or it is said that it will not be: when the worker is ended, and when it is left', async () => {
		const { client } = opened();
		const peeked = client.peek({ from: ['a', 'b'], to: ['c', 'd'] });
		const ask = last().requests.find((one) => 'ask' in one) as { ask: number };
		last().say({ kind: 'peeked', ask: ask.ask, text: '240 points' });
		assert.equal(await peeked, '240 points');
		const lost = assert.rejects(client.attributes('n1'), /stopped/);
		client.evaluate(document(1), LOOK);
		client.stop();
		mock.timers.tick(600);
		await lost;
		const left = assert.rejects(client.places(['n1']), /left/);
		client.close();
		await left;
		await assert.rejects(client.attributes('n1'), /left/);
		assert.equal(running(), 0);
	});

	test('the worker has the files that are read, and no others; a new one gets them anew', () => {
		const { client } = opened();
		const file = (of: string) => ({ hash: of.repeat(64), name: `${of}.obj`, bytes: new Uint8Array(8) });
		const [a, b] = [file('a'), file('b')];
		const importing = newNode(newDocument().graphs.main, 'import-mesh', [0, 0]);
		const reading = (hash: string): GeneratorDocument => {
			const empty = newDocument('Quay');
			const graph = withSetting({ ...empty.graphs.main, nodes: [importing] }, importing.id, 'file', hash);
			const assets = Object.fromEntries([a, b].map(({ hash, name }) => [hash, { name, bytes: 8 }]));
			return { ...empty, graphs: { main: graph }, assets };
		};
		client.addAsset(a);
		client.addAsset(b);
		const told = () =>
			last().requests.flatMap((one) =>
				one.kind === 'asset'
					? [`+${one.asset.name}`]
					: one.kind === 'forget'
						? one.assets.map((hash) => `-${hash[0]}`)
						: []
			);
		client.evaluate(reading(a.hash), LOOK);
		done(last());
		assert.deepEqual(told(), ['+a.obj']);
		client.evaluate(reading(a.hash), LOOK);
		done(last());
		client.evaluate(reading(b.hash), LOOK);
		done(last());
		assert.deepEqual(told(), ['+a.obj', '+b.obj', '-a']);
		// Undone: it comes again.
		client.evaluate(reading(a.hash), LOOK);
		client.stop();
		mock.timers.tick(600);
		client.evaluate(reading(a.hash), LOOK);
		assert.equal(Told.all.length, 2);
		assert.deepEqual(told(), ['+a.obj']);
		client.close();
	});

	test('while one runs only the newest waits; one that takes long gives way, and is replaced where it does not stop', () => {
		const { client, heard } = opened();
		client.evaluate(document(1), LOOK);
		for (const size of [2, 3, 4]) client.evaluate(document(size), LOOK);
		assert.equal(last().asked.length, 1);
		done(last());
		assert.equal(last().asked.length, 2);
		done(last());
		assert.deepEqual(heard.busy, [true, true, false]);
		// The next does not end by itself: a newer edit stops it after a while, and ends it a little later.
		client.evaluate(document(5), LOOK);
		client.evaluate(document(6), LOOK);
		mock.timers.tick(700);
		assert.equal(Told.all.length, 1);
		mock.timers.tick(500);
		assert.equal(Told.all.length, 2);
		assert.deepEqual([Told.all[0].isEnded, running(), heard.restarted.length], [true, 1, 1]);
		assert.equal(last().asked.length, 1);
		done(last());
		mock.timers.tick(60_000);
		assert.equal(Told.all.length, 2);
		client.close();
	});
});
