/** The elements of an SVG file, with what their attributes and styles say. Nothing is fetched, and no entity expanded. */
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { NodeError } from '../math/index.ts';

/** How deep elements may lie in one another. */
export const DEEPEST = 100;

export interface Element {
	name: string;
	attributes: ReadonlyMap<string, string>;
	/** What its style attribute says. */
	style: ReadonlyMap<string, string>;
	children: Element[];
	/** Of text, what it says. */
	text: string;
}

/** The root of a drawing. Throws NodeError where the text is none. */
export function parseSvg(text: string, name: string): Element {
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
				? `${name} is not a sound SVG: its elements do not close as they should, or lie more than ${DEEPEST} deep. Export it again.`
				: `${name} is not a sound SVG: line ${wrong.err.line} breaks off or is not written as XML. Export it again.`
		);
	}
	const root = elementsIn(raw, 0).find((element) => element.name === 'svg');
	if (!root) throw new NodeError(`${name} is not an SVG: it has no <svg> element.`);
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
		return [
			{
				name: entry[0],
				attributes,
				style: declarationsOf(attributes.get('style') ?? ''),
				children: elementsIn(entry[1], depth + 1),
				text: typeof entry[1] === 'string' ? entry[1] : ''
			}
		];
	});
}

/** The declarations of a style attribute. */
function declarationsOf(style: string): Map<string, string> {
	const found = new Map<string, string>();
	for (const declaration of style.split(';')) {
		const colon = declaration.indexOf(':');
		if (colon > 0)
			found.set(declaration.slice(0, colon).trim().toLowerCase(), declaration.slice(colon + 1).trim());
	}
	return found;
}

export const short = (text: string): string => (text.length > 40 ? `${text.slice(0, 39)}…` : text);

/** An element by its name, and its id where it has one. */
export const called = ({ name, attributes }: Element): string =>
	attributes.has('id') ? `<${short(name)}> “${short(attributes.get('id')!)}”` : `<${short(name)}>`;

/** What the style says, else the attribute; null where neither does. */
export const propertyOf = ({ style, attributes }: Element, name: string): string | null =>
	style.get(name) ?? attributes.get(name) ?? null;

export const isHidden = (element: Element): boolean =>
	propertyOf(element, 'display') === 'none' || propertyOf(element, 'visibility') === 'hidden';

/** Left, top, width and height of a `viewBox`; null where there is none that shows anything. */
export function boxOf({ attributes }: Element): readonly number[] | null {
	const text = attributes.get('viewBox') ?? '';
	const box =
		text.length > 200
			? []
			: text
					.trim()
					.split(/[\s,]+/)
					.map(Number);
	return box.length === 4 && box.every(Number.isFinite) && box[2] > 0 && box[3] > 0 ? box : null;
}
