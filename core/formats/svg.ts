/** Scalable Vector Graphics: outlines of paths and basic shapes, with nested transforms, in metres. Nothing is fetched or run. */
import { pollAt } from '../geometry/index.ts';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { NodeError, PI, cos, sin, tan } from '../math/index.ts';
import type { Outline } from './svg-path.ts';
import { readPathData } from './svg-path.ts';

export interface SvgRead {
	/** Two numbers a point, metres, y up, the middle of the drawing at the origin. */
	outlines: Outline[];
	/** Metres. */
	width: number;
	height: number;
	/** What was left out, as words for a list. */
	ignored: string[];
}

const LARGEST = 20_000_000;
const DEEPEST = 100;
/** Metres of a CSS unit; a px is a 96th of an inch. */
const UNITS: Record<string, number> = {
	'': 0.0254 / 96,
	px: 0.0254 / 96,
	in: 0.0254,
	cm: 0.01,
	mm: 0.001,
	pt: 0.0254 / 72,
	pc: 0.0254 / 6
};
/** Elements that draw nothing of their own. */
const QUIET = new Set([
	'title',
	'desc',
	'metadata',
	'style',
	'defs',
	'#text',
	'#comment',
	'?xml',
	'sodipodi:namedview'
]);

/** A plane map: a c e / b d f, as SVG's matrix(a b c d e f). */
type Map6 = readonly [number, number, number, number, number, number];
const IDENTITY: Map6 = [1, 0, 0, 1, 0, 0];
const product = (m: Map6, n: Map6): Map6 => [
	m[0] * n[0] + m[2] * n[1],
	m[1] * n[0] + m[3] * n[1],
	m[0] * n[2] + m[2] * n[3],
	m[1] * n[2] + m[3] * n[3],
	m[0] * n[4] + m[2] * n[5] + m[4],
	m[1] * n[4] + m[3] * n[5] + m[5]
];

interface Element {
	name: string;
	attributes: ReadonlyMap<string, string>;
	children: Element[];
}

/** Reads a drawing. `steps` are pieces for each curved command. Throws NodeError with what is wrong. */
export function readSvg(bytes: Uint8Array, name: string, steps: number): SvgRead {
	if (!bytes.length) throw new NodeError(`${name} is empty.`);
	if (bytes.length > LARGEST)
		throw new NodeError(`${name} has more than 20 MB; no drawing of outlines needs that.`);
	const text = new TextDecoder().decode(bytes);
	const root = parse(text, name);
	const ignored = new Map<string, number>();
	const ignore = (what: string): void => void ignored.set(what, (ignored.get(what) ?? 0) + 1);
	if (/<!ENTITY/i.test(text)) ignore('entities');
	const box = (root.attributes.get('viewBox') ?? '').split(/[\s,]+/).map(Number);
	const given = (side: 'width' | 'height') => length(root.attributes.get(side));
	const hasBox = box.length === 4 && box.every(Number.isFinite) && box[2] > 0 && box[3] > 0;
	const wide = hasBox ? box[2] : 0,
		high = hasBox ? box[3] : 0;
	// Metres for one unit of the drawing: both sides alike, by the smaller, as the standard’s default does.
	const scale = hasBox
		? Math.min((given('width') ?? wide * UNITS.px) / wide, (given('height') ?? Infinity) / high)
		: UNITS.px;
	const outlines: Outline[] = [];
	const walk = (element: Element, map: Map6, depth: number): void => {
		if (depth > DEEPEST) return ignore('elements nested too deep');
		const own = product(map, transformOf(element.attributes.get('transform') ?? ''));
		const style = element.attributes.get('style') ?? '';
		if (element.attributes.get('display') === 'none' || /display\s*:\s*none/.test(style)) return;
		const data = pathOf(element);
		if (data !== null) {
			const { outlines: found, complete } = readPathData(data, steps);
			if (!complete) ignore('path data after a mistake');
			for (const { points, closed } of found) {
				const placed: number[] = [];
				for (let i = 0; i < points.length; i += 2) {
					pollAt(i);
					placed.push(
						own[0] * points[i] + own[2] * points[i + 1] + own[4],
						own[1] * points[i] + own[3] * points[i + 1] + own[5]
					);
				}
				if (placed.every(Number.isFinite)) outlines.push({ points: placed, closed });
				else ignore('outlines with numbers that are none');
			}
			return;
		}
		if (element.name === 'svg' || element.name === 'g' || element.name === 'a' || element.name === 'switch')
			for (const child of element.children) walk(child, own, depth + 1);
		else if (!QUIET.has(element.name)) ignore(`<${element.name.slice(0, 40)}>`);
	};
	walk(root, IDENTITY, 0);
	return {
		...toMetres(outlines, hasBox ? box : null, scale),
		ignored: [...ignored].map(([what, n]) => (n > 1 ? `${what} (${n} times)` : what))
	};
}

/** Bare path data, a millimetre a unit. */
export function readPathText(data: string, steps: number): SvgRead {
	const { outlines, complete } = readPathData(data, steps);
	return { ...toMetres(outlines, null, 0.001), ignored: complete ? [] : ['path data after a mistake'] };
}

function toMetres(
	outlines: Outline[],
	box: readonly number[] | null,
	scale: number
): Pick<SvgRead, 'outlines' | 'width' | 'height'> {
	let [lowX, lowY, highX, highY] = [Infinity, Infinity, -Infinity, -Infinity];
	if (box) [lowX, lowY, highX, highY] = [box[0], box[1], box[0] + box[2], box[1] + box[3]];
	else
		for (const { points } of outlines)
			for (let i = 0; i < points.length; i += 2) {
				pollAt(i);
				lowX = Math.min(lowX, points[i]);
				highX = Math.max(highX, points[i]);
				lowY = Math.min(lowY, points[i + 1]);
				highY = Math.max(highY, points[i + 1]);
			}
	const [middleX, middleY] = outlines.length || box ? [(lowX + highX) / 2, (lowY + highY) / 2] : [0, 0];
	return {
		outlines: outlines.map(({ points, closed }) => ({
			closed,
			points: points.map((x, i) => (i % 2 ? (middleY - x) * scale : (x - middleX) * scale))
		})),
		width: outlines.length || box ? (highX - lowX) * scale : 0,
		height: outlines.length || box ? (highY - lowY) * scale : 0
	};
}

function parse(text: string, name: string): Element {
	let raw: unknown;
	try {
		raw = new XMLParser({
			ignoreAttributes: false,
			attributeNamePrefix: '',
			preserveOrder: true,
			// Entities are never expanded: a few could stand for gigabytes.
			processEntities: false,
			maxNestedTags: DEEPEST,
			parseTagValue: false,
			parseAttributeValue: false,
			allowBooleanAttributes: true
		}).parse(text);
	} catch {
		// The parser's own words speak of its inside; the place is what helps.
		const wrong = XMLValidator.validate(text, { allowBooleanAttributes: true });
		throw new NodeError(
			wrong === true
				? `${name} is no sound SVG: its elements do not close as they should, or lie more than ${DEEPEST} deep. Export it again.`
				: `${name} is no sound SVG: line ${wrong.err.line} breaks off or is not written as XML. Export it again.`
		);
	}
	const root = elementsIn(raw, 0).find((element) => element.name === 'svg');
	if (!root) throw new NodeError(`${name} is no SVG: it has no <svg> element.`);
	return root;
}

function elementsIn(raw: unknown, depth: number): Element[] {
	if (!Array.isArray(raw) || depth > DEEPEST + 1) return [];
	return raw.flatMap((row: unknown): Element[] => {
		if (typeof row !== 'object' || row === null) return [];
		const entry = Object.entries(row).find(([key]) => key !== ':@');
		if (!entry) return [];
		const own = (row as Record<string, unknown>)[':@'];
		const attributes = new Map(
			Object.entries((own ?? {}) as Record<string, unknown>).map(([key, value]) => [key, String(value)])
		);
		return [{ name: entry[0], attributes, children: elementsIn(entry[1], depth + 1) }];
	});
}

/** A length in metres; null where it is none, or a share of something unknown. */
function length(text: string | undefined): number | null {
	const found = /^\s*([+-]?[\d.]+(?:e[+-]?\d+)?)\s*(px|in|cm|mm|pt|pc)?\s*$/i.exec(text ?? '');
	const value = found ? Number(found[1]) * UNITS[(found[2] ?? '').toLowerCase()] : NaN;
	return value > 0 ? value : null;
}

/** The path data of a shape; null for elements that are none. */
function pathOf({ name, attributes }: Element): string | null {
	const n = (key: string, otherwise = 0) => {
		const value = parseFloat(attributes.get(key) ?? '');
		return Number.isFinite(value) ? value : otherwise;
	};
	switch (name) {
		case 'path':
			return attributes.get('d') ?? '';
		case 'line':
			return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
		case 'polyline':
		case 'polygon':
			return `M${attributes.get('points') ?? ''}${name === 'polygon' ? 'Z' : ''}`;
		case 'circle':
		case 'ellipse': {
			const rx = name === 'circle' ? n('r') : n('rx'),
				ry = name === 'circle' ? n('r') : n('ry');
			const [x, y] = [n('cx'), n('cy')];
			if (!(rx > 0 && ry > 0)) return '';
			return `M${x + rx} ${y}A${rx} ${ry} 0 0 1 ${x} ${y + ry}A${rx} ${ry} 0 0 1 ${x - rx} ${y}A${rx} ${ry} 0 0 1 ${x} ${y - ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`;
		}
		case 'rect': {
			const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
			if (!(w > 0 && h > 0)) return '';
			const rx = Math.min(n('rx', n('ry')), w / 2),
				ry = Math.min(n('ry', n('rx')), h / 2);
			if (!(rx > 0 && ry > 0)) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
			const a = `A${rx} ${ry} 0 0 1 `;
			return `M${x + rx} ${y}H${x + w - rx}${a}${x + w} ${y + ry}V${y + h - ry}${a}${x + w - rx} ${y + h}H${x + rx}${a}${x} ${y + h - ry}V${y + ry}${a}${x + rx} ${y}Z`;
		}
		default:
			return null;
	}
}

/** A list of transforms; what is unknown in it is left out. */
function transformOf(text: string): Map6 {
	let map = IDENTITY;
	for (const [, name, list] of text.matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
		const n = list
			.trim()
			.split(/[\s,]+/)
			.map(Number);
		if (!n.every(Number.isFinite)) continue;
		const angle = ((n[0] ?? 0) * PI) / 180;
		switch (name) {
			case 'matrix':
				if (n.length === 6) map = product(map, n as unknown as Map6);
				break;
			case 'translate':
				map = product(map, [1, 0, 0, 1, n[0] ?? 0, n[1] ?? 0]);
				break;
			case 'scale':
				map = product(map, [n[0] ?? 1, 0, 0, n[1] ?? n[0] ?? 1, 0, 0]);
				break;
			case 'rotate': {
				const [x, y] = [n[1] ?? 0, n[2] ?? 0];
				map = product(
					product(product(map, [1, 0, 0, 1, x, y]), [cos(angle), sin(angle), -sin(angle), cos(angle), 0, 0]),
					[1, 0, 0, 1, -x, -y]
				);
				break;
			}
			case 'skewX':
				map = product(map, [1, 0, tan(angle), 1, 0, 0]);
				break;
			case 'skewY':
				map = product(map, [1, tan(angle), 0, 1, 0, 0]);
		}
	}
	return map;
}
