import assert from 'node:assert/strict';
import { readFileSync, readdirSync } from 'node:fs';
import { test } from 'node:test';
import ELK from 'elkjs/lib/elk.bundled.js';
import { openDocument } from '../../../core/engine/index.ts';
import { unpackGenerator } from '../../../core/formats/index.ts';
import type { Graph } from '../../../core/engine/index.ts';
import { sizesOf } from '../../../scripts/label-sizes.ts';
import { LABEL_WIDTH } from '../ui/graph/label.ts';
import type { Box, Place } from '../ui/graph/route.ts';
import { placesOn, routeOf } from '../ui/graph/route.ts';
import type { LabelSize } from './tidy.ts';
import { layoutOf, placesIn } from './tidy.ts';

const WIDTH = LABEL_WIDTH;

type Places = ReadonlyMap<string, readonly [number, number]>;

/** The wires as they are drawn, between labels at places. */
function wiresAt(graph: Graph, places: Places, sizeOf: (id: string) => LabelSize): Place[][] {
	const boxes = graph.nodes.map(({ id }): Box => {
		const [x, y] = places.get(id)!;
		return { id, x, y, width: WIDTH, height: sizeOf(id).height };
	});
	return graph.wires.map(({ from, to }) => {
		const [a, b] = [boxes.find(({ id }) => id === from[0])!, boxes.find(({ id }) => id === to[0])!];
		const at = (box: Box, name: string, right: number) => ({
			x: box.x + right,
			y: box.y + (sizeOf(box.id).ports.get(name) ?? 30)
		});
		const others = boxes.filter(({ id }) => id !== from[0] && id !== to[0]);
		return placesOn(routeOf(at(a, `out ${from[1]}`, WIDTH), at(b, `in ${to[1]}`, 0), others));
	});
}

/** How often wires cross that do not begin or end at the same label. */
function crossings(graph: Graph, lines: readonly Place[][]): number {
	let count = 0;
	for (let i = 0; i < lines.length; i++)
		for (let j = i + 1; j < lines.length; j++) {
			const [a, b] = [graph.wires[i], graph.wires[j]];
			if ([b.from[0], b.to[0]].some((id) => id === a.from[0] || id === a.to[0])) continue;
			if (cross(lines[i], lines[j])) count++;
		}
	return count;
}
const side = (a: Place, b: Place, p: Place) => (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);
const cross = (one: readonly Place[], other: readonly Place[]): boolean =>
	one.some((a, i) => {
		const b = one[i + 1];
		return (
			b !== undefined &&
			other.some((c, j) => {
				const d = other[j + 1];
				return d !== undefined && side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
			})
		);
	});

/** Crossings of wires in the samples as they were laid out before the layout knew ports, counted in the same way. */
const BEFORE: Record<string, number> = {
	'boardwalk.embrell.json': 10,
	'drying-net.embrell.json': 8,
	'painted-sign.embrell.zip': 2,
	'reed-bed.embrell.json': 2,
	'rope-rail.embrell.json': 6,
	'worn-bollard.embrell.json': 3
};

const elk = new ELK();
const FOLDER = 'core/engine/older-files';
for (const file of readdirSync(FOLDER).filter(
	(name) => name.includes('.embrell.') && !name.startsWith('every-kind')
))
	test(`${file}, tidied: from cause to effect, no wire under a label, fewer crossings, notes where they belong`, async () => {
		const { text } = unpackGenerator(new Uint8Array(readFileSync(`${FOLDER}/${file}`)), file);
		const graph = openDocument(text).document.graphs.main;
		const sizeOf = sizesOf(graph);
		const places = placesIn(await elk.layout(layoutOf(graph, sizeOf)), graph, sizeOf);
		for (const { from, to } of graph.wires)
			assert.ok(
				places.get(from[0])![0] + WIDTH < places.get(to[0])![0],
				`${from[0]} is not left of ${to[0]}`
			);
		const boxes = graph.nodes.map(({ id }) => ({ id, at: places.get(id)!, height: sizeOf(id).height }));
		for (const a of boxes)
			for (const b of boxes)
				if (a !== b && Math.abs(a.at[0] - b.at[0]) < WIDTH)
					assert.ok(
						a.at[1] + a.height <= b.at[1] || b.at[1] + b.height <= a.at[1],
						`${a.id} lies on ${b.id}`
					);
		const lines = wiresAt(graph, places, sizeOf);
		lines.forEach((line, i) => {
			const { from, to } = graph.wires[i];
			for (const { id, at, height } of boxes)
				if (id !== from[0] && id !== to[0])
					for (const { x, y } of line)
						assert.ok(
							!(x > at[0] && x < at[0] + WIDTH && y > at[1] && y < at[1] + height),
							`the wire from ${from} to ${to} runs under ${id}`
						);
		});
		const after = crossings(graph, lines);
		assert.ok(after < BEFORE[file], `${after} crossings, ${BEFORE[file]} before`);
		// A note stays at its label: no farther than before, or right above it.
		for (const note of graph.notes) {
			const at = places.get(note.id)!;
			const near = Math.min(...boxes.map((box) => Math.hypot(at[0] - box.at[0], at[1] - box.at[1])));
			assert.ok(near < 120, `the note “${note.text.slice(0, 20)}” is ${near} away from any label`);
		}
	});
