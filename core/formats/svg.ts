/** Scalable Vector Graphics: outlines of paths and basic shapes, with nested transforms, in metres. Nothing is fetched or run. */
import { pollAt } from '../geometry/index.ts';
import { NodeError } from '../math/index.ts';
import type { Element } from './svg-elements.ts';
import { DEEPEST, boxOf, called, isHidden, parseSvg, propertyOf, short } from './svg-elements.ts';
import type { Window } from './svg-lengths.ts';
import { METRES, readLength } from './svg-lengths.ts';
import type { Outline } from './svg-path.ts';
import { readPathData } from './svg-path.ts';
import { pathOf } from './svg-shapes.ts';
import type { Map6 } from './svg-transform.ts';
import { IDENTITY, about, fitted, product, readTransform } from './svg-transform.ts';

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
/** Elements that draw nothing of their own. */
const QUIET = new Set([
	'title',
	'desc',
	'metadata',
	'defs',
	'#text',
	'#comment',
	'?xml',
	'sodipodi:namedview'
]);

/** Reads a drawing. `steps` are pieces for each curved command. Throws NodeError with what is wrong. */
export function readSvg(bytes: Uint8Array, name: string, steps: number): SvgRead {
	if (!bytes.length) throw new NodeError(`${name} is empty.`);
	if (bytes.length > LARGEST)
		throw new NodeError(`${name} has more than 20 MB; no drawing of outlines needs that.`);
	const text = new TextDecoder().decode(bytes);
	return new Drawing(steps, /<!ENTITY/i.test(text)).read(parseSvg(text, name));
}

/** Where an element stands: what takes it to the whole drawing, and the window that its shares are shares of. */
interface Place {
	map: Map6;
	window: Window;
	/** The window's corner in its own units. */
	corner: readonly [number, number];
	depth: number;
}

/** One reading of one drawing. */
class Drawing {
	readonly #steps: number;
	readonly #outlines: Outline[] = [];
	readonly #ignored = new Map<string, number>();

	constructor(steps: number, hasEntities: boolean) {
		this.#steps = steps;
		if (hasEntities) this.#ignore('entities');
	}

	read(root: Element): SvgRead {
		const { map, width, height, box } = this.#windowOfRoot(root);
		const place: Place = {
			map: IDENTITY,
			window: box ? { width: box[2], height: box[3] } : { width, height },
			corner: box ? [box[0], box[1]] : [0, 0],
			depth: 0
		};
		// The whole drawing turns about its middle, as a page would turn it.
		const page: Place = { ...place, window: { width, height }, corner: [0, 0] };
		const inside = {
			...place,
			map: product(this.#transformOf(root, page, width && height ? '50% 50%' : null), map)
		};
		if (!isHidden(root)) for (const child of root.children) this.#walk(child, inside);
		return {
			...toMetres(this.#outlines, box ? [0, 0, width!, height!] : null, METRES),
			ignored: [...this.#ignored].map(([what, n]) => (n > 1 ? `${what} (${n} times)` : what))
		};
	}

	#ignore(what: string): void {
		this.#ignored.set(what, (this.#ignored.get(what) ?? 0) + 1);
	}

	/** The drawing's own size: as given, where one side is missing by the box's shape, else a unit of the box each. */
	#windowOfRoot(root: Element): {
		map: Map6;
		width: number | null;
		height: number | null;
		box: readonly number[] | null;
	} {
		const unknown: Window = { width: null, height: null };
		const side = (name: 'width' | 'height') => {
			const text = propertyOf(root, name);
			// A share of a page that is not known is as good as nothing; so is a size of nothing.
			if (text === null || text === 'auto' || text.trim().endsWith('%')) return null;
			const length = readLength(text, 'x', unknown);
			if (length === null) this.#ignore(`${name}=“${short(text)}” of <svg>`);
			return length !== null && length > 0 ? length : null;
		};
		const width = side('width'),
			height = side('height');
		const box = boxOf(root);
		if (!box) return { map: IDENTITY, width, height, box };
		const scale = width !== null ? width / box[2] : height !== null ? height / box[3] : 1;
		const [w, h] = [width ?? box[2] * scale, height ?? box[3] * scale];
		return {
			map: fitted(box, w, h, propertyOf(root, 'preserveAspectRatio') ?? ''),
			width: w,
			height: h,
			box
		};
	}

	#walk(element: Element, place: Place): void {
		if (place.depth > DEEPEST) return this.#ignore('elements nested too deep');
		if (isHidden(element)) return;
		const { name } = element;
		if (name === 'style') return this.#lookAtRules(element);
		const own = {
			...place,
			map: product(place.map, this.#transformOf(element, place)),
			depth: place.depth + 1
		};
		let unreadable = false;
		const data = pathOf(
			name,
			(key) => element.attributes.get(key) ?? '',
			(key, along) => {
				const text = propertyOf(element, key);
				if (text === null || text === 'auto') return null;
				const length = readLength(text, along, place.window);
				if (length === null) {
					this.#ignore(`${called(element)}, as its ${key} is “${short(text)}”`);
					unreadable = true;
				}
				return length;
			}
		);
		if (data !== null) {
			this.#lookAtCuts(element);
			if (!unreadable) this.#draw(data, own.map);
		} else if (name === 'svg') this.#walkWindow(element, own);
		else if (name === 'g' || name === 'a' || name === 'switch') {
			this.#lookAtCuts(element);
			for (const child of element.children) this.#walk(child, own);
		} else if (!QUIET.has(name)) this.#ignore(`<${short(name)}>`);
	}

	/** An <svg> within the drawing: a window of its own, which cuts off what lies outside. */
	#walkWindow(element: Element, place: Place): void {
		const length = (key: string, along: 'x' | 'y', otherwise: string) => {
			const text = propertyOf(element, key) ?? otherwise;
			const found = readLength(text === 'auto' ? otherwise : text, along, place.window);
			if (found === null) this.#ignore(`a nested <svg>, as its ${key} is “${short(text)}”`);
			return found;
		};
		const box = boxOf(element);
		const x = length('x', 'x', '0'),
			y = length('y', 'y', '0'),
			width = length('width', 'x', '100%'),
			height = length('height', 'y', '100%');
		if (x === null || y === null || width === null || height === null) return;
		if (!(width > 0 && height > 0)) return;
		const atCorner = product(place.map, [1, 0, 0, 1, x, y]);
		const inside: Place = {
			map: box
				? product(atCorner, fitted(box, width, height, propertyOf(element, 'preserveAspectRatio') ?? ''))
				: atCorner,
			window: box ? { width: box[2], height: box[3] } : { width, height },
			corner: box ? [box[0], box[1]] : [0, 0],
			depth: place.depth
		};
		const before = this.#outlines.length;
		for (const child of element.children) this.#walk(child, inside);
		if (
			propertyOf(element, 'overflow') !== 'visible' &&
			!this.#outlines.slice(before).every((outline) => isWithin(outline, atCorner, width, height))
		)
			this.#ignore('cutting off at the edge of a nested <svg>');
	}

	#draw(data: string, map: Map6): void {
		const { outlines, complete } = readPathData(data, this.#steps);
		if (!complete) this.#ignore('path data after a mistake');
		for (const { points, closed } of outlines) {
			const placed: number[] = [];
			for (let i = 0; i < points.length; i += 2) {
				pollAt(i);
				placed.push(
					map[0] * points[i] + map[2] * points[i + 1] + map[4],
					map[1] * points[i] + map[3] * points[i + 1] + map[5]
				);
			}
			if (placed.every(Number.isFinite)) this.#outlines.push({ points: placed, closed });
			else this.#ignore('outlines with numbers that cannot be read');
		}
	}

	/** CSS comes before the attribute. What cannot be read is left out and said; the element stays where it would be without. */
	#transformOf(element: Element, { window, corner }: Place, middle: string | null = null): Map6 {
		for (const name of ['translate', 'rotate', 'scale', 'offset-path'])
			if (element.style.has(name)) this.#ignore(`${name} in the style of ${called(element)}`);
		const text = propertyOf(element, 'transform');
		if (text === null || text.trim() === '' || text.trim() === 'none') return IDENTITY;
		const map = readTransform(text, window);
		const origin = propertyOf(element, 'transform-origin') ?? middle;
		const fillBox = /fill-box|content-box|stroke-box/.test(propertyOf(element, 'transform-box') ?? '');
		const placed = map && origin !== null ? (fillBox ? null : about(map, origin, corner, window)) : map;
		if (placed) return placed;
		this.#ignore(`transform “${short(text)}” of ${called(element)}`);
		return IDENTITY;
	}

	#lookAtCuts(element: Element): void {
		for (const name of ['clip-path', 'mask'])
			if ((propertyOf(element, name) ?? 'none') !== 'none') this.#ignore(`${name} of ${called(element)}`);
	}

	/** Rules of style sheets are not followed; those that would move, resize or hide something are said. */
	#lookAtRules({ children }: Element): void {
		if (
			children.some(({ text }) =>
				/transform|display|visibility|[{;\s](?:c?[xy]|r[xy]?|d|width|height)\s*:/.test(text)
			)
		)
			this.#ignore('rules in <style> that move, resize or hide');
	}
}

/** Whether an outline lies in the window whose corner a map says. */
function isWithin({ points }: Outline, [a, b, c, d, e, f]: Map6, width: number, height: number): boolean {
	const size = a * d - b * c;
	const [slackX, slackY] = [1e-6 * width, 1e-6 * height];
	for (let i = 0; i < points.length; i += 2) {
		pollAt(i);
		const x = (d * (points[i] - e) - c * (points[i + 1] - f)) / size,
			y = (a * (points[i + 1] - f) - b * (points[i] - e)) / size;
		if (x < -slackX || y < -slackY || x > width + slackX || y > height + slackY) return false;
	}
	return true;
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
