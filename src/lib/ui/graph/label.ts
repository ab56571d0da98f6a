/** What a node’s label says of its state: a word for it, and what stands on its foot. */
import type { GraphNode, Setting } from '../../../../core/engine/index.ts';
import type { InputDefinition } from '../../../../core/nodes/index.ts';
import { cutPart, inputOf, inputsOf, isFormula, isRange, outputsOf } from '../../../../core/engine/index.ts';
import { takesMany } from '../../../../core/nodes/index.ts';
import type { NodeReport } from '../../../../core/session/messages.ts';
import { countsInWords } from '../../../../core/session/counts.ts';

export type LabelState = 'bypassed' | 'working' | 'not evaluated' | 'error' | 'waiting' | 'warning' | 'fresh';

/** How wide labels are, as the graph counts. */
export const LABEL_WIDTH = 188;

/** Slower nodes tell their milliseconds. */
const SLOW = 50;

/** `working` is whether an evaluation goes on, `at` the node that it has come to. */
export function stateOf(
	node: GraphNode,
	report: NodeReport | undefined,
	working: boolean,
	at: string | undefined
): LabelState {
	if (node.bypassed) return 'bypassed';
	if (!report) return working ? 'working' : 'not evaluated';
	if (report.state === 'error' || report.state === 'waiting') return report.state;
	if (at === node.id) return 'working';
	return report.warnings.length ? 'warning' : 'fresh';
}

/** What came out, or why nothing did; milliseconds only where it was slow. */
export function footOf(report: NodeReport | undefined): string {
	if (!report) return '';
	if (report.state === 'error' || report.state === 'waiting') return report.error?.message ?? '';
	const { counts, value, milliseconds, shapes } = report;
	if (!counts) return value ?? 'value';
	// Points of a mesh or of curves go without saying.
	const own = counts.faces || counts.curves ? { ...counts, points: 0 } : counts;
	const took = milliseconds > SLOW ? ` · ${Math.round(milliseconds)} ms` : '';
	const of = shapes > 1 ? ` of ${shapes.toLocaleString('en')} shapes` : '';
	return (countsInWords(own).join(', ') || 'empty') + of + took;
}

/** Whether it goes into the node's body. */
const isPort = ({ ports }: GraphNode, name: string): boolean =>
	ports?.inputs.some((port) => port.name === name) ?? false;

/** The inputs that stand on a label: geometry and lists, what is wired, parts of vectors too, the artist’s own. */
export const inputsOnLabel = (node: GraphNode, wired: ReadonlySet<string>) => {
	const shown = inputsOf(node).filter(
		([name, input]) =>
			// Optional ones come when a choice asks for them.
			((input.kind === 'geometry' || input.kind === 'list') &&
				(!input.optional || isPort(node, name) || input.when?.(node.settings))) ||
			(takesMany(input) && input.when?.(node.settings)) ||
			wired.has(name) ||
			node.inputs?.some((own) => own.name === name)
	);
	const parts = [...wired].flatMap((name): [string, InputDefinition][] => {
		const input = cutPart(name) && inputOf(node, name);
		return input ? [[name, input]] : [];
	});
	return parts.length ? [...shown, ...parts.sort(([a], [b]) => (a < b ? -1 : 1))] : shown;
};

/** The settings that the artist keeps open on the label; one that is wired stands among the inputs. */
export const pinsOnLabel = (node: GraphNode, wired: ReadonlySet<string>) => {
	const above = new Set(inputsOnLabel(node, wired).map(([name]) => name));
	return inputsOf(node).filter(([name]) => node.pinned?.includes(name) && !above.has(name));
};

/** A setting as it is read on a label: `0.1 to 0.3 m`, `0.2 ± 0.1`, a formula, the option's own word. */
export function settingInWords(setting: Setting, input: InputDefinition): string {
	const unit = 'unit' in input && input.unit ? (input.unit === '°' ? '°' : ` ${input.unit}`) : '';
	const one = (s: Setting): string => {
		if (typeof s === 'number') return String(Number(s.toFixed(3)));
		if (typeof s === 'boolean') return s ? 'yes' : 'no';
		if (isFormula(s)) return s.formula;
		if (isRange(s)) return 'low' in s ? `${s.low} to ${s.high}` : `${s.base} ± ${s.variation}`;
		if (typeof s === 'string')
			return (input.kind === 'choice' && input.options.find(({ id }) => id === s)?.label) || s;
		return Array.isArray(s) ? s.map(one).join(', ') : '';
	};
	const text = one(setting);
	return isFormula(setting) || !text ? text : text + unit;
}

/** Of many outputs only those in use stand on a label, until it is unfolded. */
export const MANY_OUTPUTS = 4;
export const outputsOnLabel = <Output>(
	all: readonly (readonly [string, Output])[],
	used: ReadonlySet<string>
): readonly (readonly [string, Output])[] =>
	all.length <= MANY_OUTPUTS ? all : all.filter(([port], i) => (used.size ? used.has(port) : i < 2));

/** A node that gives numbers and no geometry is seen as a heat map on what is shown: the output by which. */
export function heatPortOf(node: GraphNode): string | null {
	const all = Object.entries(outputsOf(node));
	if (all.some(([, { kind }]) => kind === 'geometry')) return null;
	return all.find(([, { kind }]) => NUMBERS.has(kind))?.[0] ?? null;
}
const NUMBERS: ReadonlySet<string> = new Set(['number', 'whole', 'yesno', 'value']);
