/** The elements on which a varying value is worked out: how many, their ids, and what can be read from them. */
import type { Fix } from '../math/index.ts';
import { NodeError } from '../math/index.ts';
import type { Column, Geometry, Kind, Part } from '../geometry/index.ts';
import {
	allocate,
	attributeNames,
	column,
	convertColumn,
	derive,
	faceNormals,
	findAttribute,
	lengthsAlong,
	pointNormals,
	shapeOf,
	tableOf,
	together
} from '../geometry/index.ts';

export interface Elements {
	readonly count: number;
	/** What they are in the plural, for messages: “points”. */
	readonly called?: string;
	/** Two words for each; null means (index, 0). */
	readonly ids: Uint32Array | null;
	/** Reads a column by the name of an attribute; throws NodeError where there is none. `warn` hears of ambiguity. */
	attribute(name: string, warn: (message: string) => void): Column;
	/** Reads position, normal, u or length; throws NodeError where the elements have none. */
	builtin(name: string): Column;
}

/** A single element with nothing to read, for settings that belong to a node as a whole. */
export function singleElement(id: readonly [number, number] = [0, 0]): Elements {
	return plainElements(1, Uint32Array.of(id[0], id[1]));
}

/** Elements that have only an index: the steps of a list, say. */
export function plainElements(count: number, ids: Uint32Array | null = null): Elements {
	return {
		count,
		ids,
		attribute(name) {
			const near = nearestName(name, ['index', 'count', 'id']);
			throw new NodeError(
				`There is no “${name}” here${near ? `. Did you mean “${near}”? This` : ': this'} setting is worked out before there is any geometry to read it from.`,
				{ fixes: fixesOfName(name, near) }
			);
		},
		builtin(name) {
			throw new NodeError(`There is no “${name}” here: this setting is one value for the whole node.`);
		}
	};
}

const CALLED: Readonly<Partial<Record<Kind, string>>> = {
	point: 'points',
	edge: 'edges',
	face: 'faces',
	corner: 'corners',
	curve: 'curves',
	copy: 'copies'
};

/** The elements of one kind in a part of a geometry. */
export function elementsOf(geometry: Geometry, part: Part, kind: Kind): Elements {
	return derive(geometry, `elements ${part} ${kind}`, () => makeElements(geometry, part, kind));
}

function makeElements(geometry: Geometry, part: Part, kind: Kind): Elements {
	const table = tableOf(geometry, part, kind);
	if (!table) return plainElements(0);
	return {
		count: table.count,
		called: CALLED[kind],
		ids: table.ids,
		attribute(name, warn) {
			const found = findAttribute(geometry, part, kind, name);
			if (!found) throw unknownName(name, [...attributeNames(geometry).keys()]);
			if (found.kind !== kind && found.others.length)
				warn(
					`“${name}” is on ${[found.kind, ...found.others].join(' and ')}; the one on the ${found.kind} is used.`
				);
			return convertColumn(geometry, part, found.column, found.kind, kind);
		},
		builtin(name) {
			return builtinColumn(geometry, part, kind, name);
		}
	};
}

/** The error for a name that is nothing here; it proposes the nearest one that is. */
function unknownName(name: string, known: readonly string[]): NodeError {
	const near = nearestName(name, known);
	const has = known.length
		? ` Attributes here: ${known.slice(0, 8).join(', ')}${known.length > 8 ? ', …' : ''}.`
		: '';
	return new NodeError(`There is no “${name}” here.${near ? ` Did you mean “${near}”?` : ''}${has}`, {
		fixes: fixesOfName(name, near)
	});
}

/** What may be done about an unknown name: write the nearest known one, or make it an input. */
export const fixesOfName = (name: string, near: string | null): Fix[] => [
	...(near ? [{ label: `Write “${near}”`, rename: { from: name, to: near } }] : []),
	{ label: `Make “${name}” an input`, declare: name }
];

/** The known name that fewest edits separate from this one; null when none is near. */
export function nearestName(name: string, known: Iterable<string>): string | null {
	let best: string | null = null;
	let fewest = Math.max(1, Math.floor(name.length / 3)) + 0.999;
	for (const candidate of known) {
		// Of equally near names the one that begins alike for longer: “sinn” means sin, not sign.
		const edits =
			editDistance(name.toLowerCase(), candidate.toLowerCase()) - commonStart(name, candidate) / 100;
		if (edits < fewest) {
			fewest = edits;
			best = candidate;
		}
	}
	return best;
}

function commonStart(a: string, b: string): number {
	let i = 0;
	while (i < a.length && a[i] === b[i]) i++;
	return i;
}

function editDistance(a: string, b: string): number {
	let row = Array.from({ length: b.length + 1 }, (_, j) => j);
	for (let i = 1; i <= a.length; i++) {
		const next = [i];
		for (let j = 1; j <= b.length; j++)
			next[j] = Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
		row = next;
	}
	return row[b.length];
}

function builtinColumn(geometry: Geometry, part: Part, kind: Kind, name: string): Column {
	if (name === 'position') {
		const own = findAttribute(geometry, part, kind, 'position');
		if (own) return convertColumn(geometry, part, own.column, own.kind, kind);
	}
	if (name === 'normal') {
		if (part === 'mesh' && geometry.mesh) {
			const mesh = geometry.mesh;
			const shape = shapeOf(mesh);
			if (kind === 'face')
				return derive(shape, 'face normal column', () => column('vec3', 'normal', faceNormals(mesh)));
			const points = derive(shape, 'point normal column', () => column('vec3', 'normal', pointNormals(mesh)));
			return convertColumn(geometry, part, points, 'point', kind);
		}
		const own = findAttribute(geometry, part, kind, 'normal');
		if (own) return convertColumn(geometry, part, own.column, own.kind, kind);
		throw new NodeError('There is no “normal” here: these elements lie on no surface.');
	}
	if (name === 'u' || name === 'length') {
		// Along a curve they are its own, whatever the points brought from which it grew: that is `attribute.u`.
		if (part === 'curves' && geometry.curves) return curveColumn(geometry, kind, name);
		const own = findAttribute(geometry, part, kind, name);
		if (own) return convertColumn(geometry, part, own.column, own.kind, kind);
		throw new NodeError(`There is no “${name}” here: these elements lie on no curve.`);
	}
	throw new NodeError(`There is no “${name}” here.`);
}

function curveColumn(geometry: Geometry, kind: Kind, name: 'u' | 'length'): Column {
	const curves = geometry.curves!;
	const { along, lengths } = lengthsAlong(curves);
	return derive(together(curves.points.columns.get('position')!, along), `${name} of ${kind}`, () => {
		if (kind === 'curve') {
			const data = allocate('float', lengths.length);
			for (let i = 0; i < data.length; i++) data[i] = name === 'length' ? lengths[i] : 0.5;
			return column('float', 'plain', data);
		}
		const data = allocate('float', along.length);
		for (let c = 0; c < lengths.length; c++)
			for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++)
				data[i] = name === 'length' ? lengths[c] : lengths[c] > 0 ? along[i] / lengths[c] : 0;
		return column('float', 'plain', data);
	});
}
