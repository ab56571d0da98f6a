/** What may be written in a formula at a setting, with what each name means: what an editor proposes. */
import { CONSTANT_HELP, ELEMENT_HELP, FUNCTION_HELP, RESERVED, WORD_HELP } from '../varying/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { inputsOf, outputsOf, pathBetween } from './connect.ts';
import { leadersFor } from './references.ts';
import { portOf } from './bodies.ts';
import type { Dial, Graph, GraphNode } from './document.ts';
import { inputKind } from './inputs/index.ts';
import { wholeOf } from './vector-parts.ts';

export interface Proposal {
	/** What is written. */
	name: string;
	kind: 'input' | 'setting' | 'attribute' | 'element' | 'constant' | 'function' | 'other node' | 'word';
	/** What it means, in a sentence. */
	says: string;
	/** How a function is called. */
	call?: string;
}

const PASS_HELP: readonly [string, string][] = [
	['pass', 'Which time round it is in the repeat, from 0.'],
	['passes', 'How many times round there will be.'],
	['progress', '(pass + 1) ÷ passes: above 0, and 1 in the last.'],
	['outer.pass', 'The same of the repeat one further out; so with outer.passes and outer.progress.']
];

/**
 * Everything with a meaning in a formula at the setting `current` of a node, what is nearest first.
 * @param isRepeated whether the graph lies in the body of a repeat.
 */
export function proposalsAt(
	graph: Graph,
	node: GraphNode,
	current: string,
	attributes: readonly string[],
	{ isRepeated = false, dials = [] }: { isRepeated?: boolean; dials?: readonly Dial[] } = {}
): Proposal[] {
	const own = new Set((node.inputs ?? []).map(({ name }) => name));
	const settings = inputsOf(node).filter(([name, input]) => isReferable(input) && name !== wholeOf(current));
	const taken = new Set([...RESERVED, ...settings.map(([name]) => name)]);
	// What hangs from this setting, or from this node, would lead round in a circle.
	const allowed = new Set(leadersFor(graph, [node.id, current]).map(({ place }) => place.join(' ')));
	const mayRead = (other: GraphNode) => !pathBetween(graph, node.id, other.id);
	return [
		...settings
			.filter(([name]) => own.has(name) || !RESERVED.includes(name))
			.map(([name, input]): Proposal => ({
				name,
				kind: own.has(name) ? 'input' : 'setting',
				says: own.has(name) ? 'An input of this node.' : settingSays(input)
			})),
		...dials
			.filter(({ kind }) => kind !== 'text' && kind !== 'choice' && kind !== 'ramp' && kind !== 'material')
			.map(({ key, name, unit }): Proposal => ({
				name: `dial.${key}`,
				kind: 'setting',
				says: `The dial “${name}”${unit ? `, in ${unit === '°' ? 'degrees' : unit}` : ''}.`
			})),
		...(isRepeated ? PASS_HELP.map(([name, says]): Proposal => ({ name, kind: 'element', says })) : []),
		...attributes
			.filter((name) => !Object.hasOwn(ELEMENT_HELP, name))
			.map((name): Proposal => ({
				// A name that already means something is reached by its full name.
				name: taken.has(name) ? `attribute.${name}` : name,
				kind: 'attribute',
				says: 'An attribute of what comes in.'
			})),
		...Object.entries(ELEMENT_HELP).map(([name, says]): Proposal => ({ name, kind: 'element', says })),
		...[...CONSTANT_HELP].map(([name, says]): Proposal => ({ name, kind: 'constant', says })),
		...[...FUNCTION_HELP].map(([name, { call, says }]): Proposal => ({ name, kind: 'function', says, call })),
		...[...WORD_HELP].map(([name, says]): Proposal => ({ name, kind: 'word', says })),
		...graph.nodes
			.filter(({ id }) => id !== node.id)
			.flatMap((other) => [
				...(other.kind === 'input' && portOf(other).carries !== 'geometry'
					? [
							{
								name: `${other.short}.value`,
								kind: 'other node' as const,
								says: portOf(other).help ?? 'What arrives in the subgraph here.'
							}
						]
					: []),
				...(nodeKinds.get(other.kind)?.givesOne && mayRead(other)
					? Object.entries(outputsOf(other)).map(([name, { label, help }]): Proposal => ({
							name: `${other.short}.${name}`,
							kind: 'other node',
							says: `${label} of ${other.short}. ${help}`
						}))
					: []),
				...inputsOf(other)
					.filter(([name, input]) => isReferable(input) && allowed.has(`${other.id} ${name}`))
					.map(([name, input]): Proposal => ({
						name: `${other.short}.${name}`,
						kind: 'other node',
						says: settingSays(input)
					}))
			])
	];
}

/** Whether formulas may refer to a setting. */
export const isReferable = (input: InputDefinition): boolean => inputKind(input).isNumeric;

const settingSays = (input: InputDefinition): string =>
	`${input.label}${'unit' in input && input.unit ? `, in ${input.unit === '°' ? 'degrees' : input.unit}` : ''}.`;
