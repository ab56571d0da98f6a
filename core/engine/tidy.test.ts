import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { Graph } from './document.ts';
import { newNode, tidyPlaces, withWire } from './index.ts';

/** Nodes that hand geometry on, each fed by some of those before it, in places by chance. */
function graphOf(feeds: readonly (readonly number[])[], at: readonly (readonly [number, number])[]): Graph {
	let graph: Graph = { nodes: [], wires: [], notes: [] };
	feeds.forEach((_, i) => {
		graph = { ...graph, nodes: [...graph.nodes, newNode(graph, 'merge', at[i] ?? [0, 0], {})] };
	});
	feeds.forEach((from, i) => {
		for (const place of from)
			if (place < i)
				graph = withWire(graph, {
					from: [graph.nodes[place].id, 'geometry'],
					to: [graph.nodes[i].id, 'geometry']
				});
	});
	return graph;
}

const graphs = fc
	.tuple(
		fc.array(fc.array(fc.nat(20), { maxLength: 3 }), { minLength: 1, maxLength: 20 }),
		fc.array(fc.tuple(fc.integer({ min: -900, max: 900 }), fc.integer({ min: -900, max: 900 })), {
			minLength: 20,
			maxLength: 20
		})
	)
	.map(([feeds, at]) => graphOf(feeds, at));

test('causes stand left of effects, no two nodes lie on one another, and tidying again moves nothing', () => {
	fc.assert(
		fc.property(
			graphs,
			fc.array(fc.integer({ min: 60, max: 400 }), { minLength: 20, maxLength: 20 }),
			(graph, tall) => {
				const heights = new Map(graph.nodes.map(({ id }, i) => [id, tall[i]]));
				const places = tidyPlaces(graph, (id) => heights.get(id)!);
				assert.equal(places.size, graph.nodes.length);
				for (const { from, to } of graph.wires)
					assert.ok(places.get(from[0])![0] + 190 < places.get(to[0])![0]);
				for (const a of graph.nodes)
					for (const b of graph.nodes) {
						const [ax, ay] = places.get(a.id)!,
							[bx, by] = places.get(b.id)!;
						if (a !== b && ax === bx) assert.ok(ay + heights.get(a.id)! < by || by + heights.get(b.id)! < ay);
					}
				const moved = {
					...graph,
					nodes: graph.nodes.map((node) => ({ ...node, at: [...places.get(node.id)!] as [number, number] }))
				};
				assert.deepEqual(
					tidyPlaces(moved, (id) => heights.get(id)!),
					places
				);
			}
		)
	);
});
