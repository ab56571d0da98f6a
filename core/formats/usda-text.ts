/** The text of a USD file in ASCII: prims with attributes whose values may change over frames. */
import { NodeError, formatCount } from '../math/index.ts';

/** More than this no editor opens. */
const MOST_CHARACTERS = 1_000_000_000;

/** Counts what is written, so that it stops before the memory is full. */
export class UsdaRoom {
	#used = 0;
	take(text: string): string {
		this.#used += text.length;
		if (this.#used > MOST_CHARACTERS)
			throw new NodeError(
				`The file would have more than ${formatCount(MOST_CHARACTERS)} characters. Write fewer frames, or a file for each frame.`
			);
		return text;
	}
}

/** An attribute over frames: its value where it changes. */
class Sampled {
	readonly #samples: { frame: number; value: string }[] = [];
	#latest = -Infinity;

	/** What holds from a frame on. Readers go straight from sample to sample, so the last frame before a change has one too. */
	set(frame: number, value: string, room: UsdaRoom): void {
		const last = this.#samples.at(-1);
		if (last?.value !== value) {
			if (last && this.#latest > last.frame)
				this.#samples.push({ frame: this.#latest, value: room.take(last.value) });
			this.#samples.push({ frame, value: room.take(value) });
		}
		this.#latest = frame;
	}

	/** @param note what stands in brackets behind it, such as how it is read between points. */
	written(name: string, indent: string, note: string): string {
		const behind = note && ` (\n${indent}\t${note}\n${indent})`;
		if (this.#samples.length === 1) return `${indent}${name} = ${this.#samples[0].value}${behind}\n`;
		const rows = this.#samples.map(({ frame, value }) => `${indent}\t${frame}: ${value},\n`);
		return `${note && `${indent}${name}${behind}\n`}${indent}${name}.timeSamples = {\n${rows.join('')}${indent}}\n`;
	}
}

/** A prim: its kind and name, attributes, relations and what lies within. */
export class Prim {
	readonly path: string;
	readonly children = new Map<string, Prim>();
	readonly #kind: string;
	readonly #name: string;
	readonly #room: UsdaRoom;
	readonly #attributes = new Map<string, Sampled>();
	/** Lines that never change, such as relations; without a value where the text is empty. */
	readonly fixed = new Map<string, string>();
	/** The schemas that are applied to it. */
	readonly schemas = new Set<string>();
	readonly #notes = new Map<string, string>();

	constructor(kind: string, name: string, parent: Prim | null, room: UsdaRoom) {
		this.#kind = kind;
		this.#name = name;
		this.#room = room;
		this.path = `${parent?.path ?? ''}/${name}`;
		parent?.children.set(name, this);
	}

	/** A prim within this one, made when it is first asked for. */
	child(kind: string, name: string): Prim {
		return this.children.get(name) ?? new Prim(kind, name, this, this.#room);
	}

	set(frame: number, name: string, value: string, note = ''): void {
		let sampled = this.#attributes.get(name);
		if (!sampled) this.#attributes.set(name, (sampled = new Sampled()));
		sampled.set(frame, value, this.#room);
		if (note) this.#notes.set(name, note);
	}

	/** Its lines, one piece after another. */
	*lines(indent = ''): Generator<string> {
		const schemas = [...this.schemas].map((name) => `"${name}"`).join(', ');
		yield `${indent}def ${this.#kind} "${this.#name}"${schemas ? ` (\n${indent}\tprepend apiSchemas = [${schemas}]\n${indent})` : ''}\n${indent}{\n`;
		const within = indent + '\t';
		for (const [name, text] of this.fixed) yield `${within}${name}${text && ` = ${text}`}\n`;
		for (const [name, sampled] of this.#attributes)
			yield sampled.written(name, within, this.#notes.get(name) ?? '');
		for (const child of this.children.values()) yield* child.lines(within);
		yield `${indent}}\n`;
	}
}

/** A number as short as it can be without being another float. */
export function numeral(x: number): string {
	if (Number.isInteger(x)) return String(x);
	const short = Number(x.toPrecision(7));
	return String(Math.fround(short) === Math.fround(x) ? short : Number(x.toPrecision(9)));
}

/** Rows of numbers as tuples. */
export function tuples(data: ArrayLike<number>, width: number): string {
	const rows: string[] = [];
	for (let i = 0; i < data.length; i += width) {
		const row: string[] = [];
		for (let k = 0; k < width; k++) row.push(numeral(data[i + k]));
		rows.push(`(${row.join(', ')})`);
	}
	return `[${rows.join(', ')}]`;
}

export const list = (data: Iterable<number | bigint | string>): string => `[${[...data].join(', ')}]`;

/** A name as USD has them: letters, digits and underscores. */
export const identifier = (name: string, otherwise = 'Generator'): string => {
	const plain = name.replace(/[^A-Za-z0-9_]+/g, '_').replace(/^_+|_+$/g, '');
	return !plain ? otherwise : /^\d/.test(plain) ? `_${plain}` : plain;
};
