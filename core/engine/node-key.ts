/** The provenance key of a node: a hash of its kind, its settings, and the keys of what flows into it. */
import { Hasher } from '../math/index.ts';
import type { AnyNode } from '../nodes/index.ts';
import { hearsTime } from './bodies.ts';
import { keyOfBody } from './composites/index.ts';
import type { GraphNode, Wire } from './document.ts';
import { factsOf } from './facts.ts';
import type { Scope } from './scope.ts';
import { momentAt } from './time.ts';
import { isVarying } from './values.ts';

/** @param wires those whose sources are used; their results stand in the scope. */
export function keyOfNode(scope: Scope, node: GraphNode, kind: AnyNode, wires: readonly Wire[]): string {
	const { signature, varied } = factsOf(node);
	const hasher = new Hasher().text(signature);
	const wired = new Set<string>();
	for (const wire of wires) {
		const made = scope.output(wire.from[0], wire.from[1]);
		wired.add(wire.to[1]);
		hasher
			.text(wire.to[1])
			.text(isVarying(made) ? made.hash : `${scope.results.get(wire.from[0])!.key} ${wire.from[1]}`);
	}
	for (const name of varied)
		if (!wired.has(name)) hasher.text(name).text(scope.settings.value(node, name).hash);
	if (kind.body) hasher.text(keyOfBody(scope, node));
	if (hearsTime(node, { wires })) hasher.text(JSON.stringify(momentAt(scope.raw, scope.frame)));
	if (kind.seeded) hasher.number(scope.seed).text(scope.path).text(node.stream);
	return hasher.key();
}

/** What a node was evaluated from, and what came of it: while all of it is the same, no key need be made. */
export interface Before {
	readonly seed: number;
	readonly wires: readonly Wire[];
	/** The keys of what flowed in. */
	readonly sources: readonly string[];
	readonly key: string;
}

/** Notes what a node is evaluated from. */
export const beforeOf = (scope: Scope, wires: readonly Wire[], key: string): Before => ({
	seed: scope.seed,
	wires,
	sources: wires.map((wire) => scope.results.get(wire.from[0])!.key),
	key
});

/** Whether a node stands as it stood before. */
export function isAsBefore(before: Before, wires: readonly Wire[], { seed, results }: Scope): boolean {
	if (before.seed !== seed || before.wires.length !== wires.length) return false;
	for (let i = 0; i < wires.length; i++)
		if (before.wires[i] !== wires[i] || before.sources[i] !== results.get(wires[i].from[0])?.key)
			return false;
	return true;
}
