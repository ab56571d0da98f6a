/** Drawings that say the same in different words give the same outlines; what is not understood is said, with where. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import type { SvgRead } from './svg.ts';
import { readSvg } from './svg.ts';

const read = (text: string): SvgRead => readSvg(new TextEncoder().encode(text), 'plan.svg', 16);
/** A drawing of 200 by 100 units of a pixel. */
const drawing = (inside: string, more = '') =>
	read(`<svg width="200" height="100" viewBox="0 0 200 100" ${more}>${inside}</svg>`);
const PX = 0.0254 / 96;

function same(a: SvgRead, b: SvgRead): void {
	assert.deepEqual([a.ignored, b.ignored], [[], []]);
	assert.equal(a.outlines.length, b.outlines.length);
	assert.ok(a.outlines.length > 0);
	a.outlines.forEach(({ points, closed }, i) => {
		assert.equal(closed, b.outlines[i].closed);
		assert.equal(points.length, b.outlines[i].points.length);
		points.forEach((x, k) =>
			assert.ok(Math.abs(x - b.outlines[i].points[k]) < 1e-8, `${x} for ${b.outlines[i].points[k]}`)
		);
	});
	for (const side of ['width', 'height'] as const) assert.ok(Math.abs(a[side] - b[side]) < 1e-9);
}

/** Lowest and highest x and y in pixels from the middle, y down. */
function edges({ outlines }: SvgRead): number[] {
	const xs = outlines.flatMap(({ points }) => points.filter((_, i) => i % 2 === 0)),
		ys = outlines.flatMap(({ points }) => points.filter((_, i) => i % 2).map((y) => -y));
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)].map((x) => x / PX);
}
const near = (a: readonly number[], b: readonly number[]) =>
	a.forEach((x, i) => assert.ok(Math.abs(x - b[i]) < 1e-6, `${String(a)} for ${String(b)}`));

const UNITS: Readonly<Record<string, number>> = {
	px: 1,
	in: 96,
	cm: 96 / 2.54,
	mm: 96 / 25.4,
	Q: 96 / 101.6,
	pt: 96 / 72,
	pc: 16
};
const unit = fc.constantFrom(...Object.keys(UNITS));
const number = fc.integer({ min: -400, max: 400 }).map((n) => n / 8);
const size = fc.integer({ min: 1, max: 400 }).map((n) => n / 4);

test('lengths with units are those in pixels, in attributes and in styles, and shares are those of the window', () => {
	fc.assert(
		fc.property(unit, number, number, size, size, (u, x, y, w, h) => {
			const k = UNITS[u];
			const plain = `<rect x="${x * k}" y="${y * k}" width="${w * k}" height="${h * k}" rx="${(w * k) / 8}"/>`;
			same(
				drawing(`<rect x="${x}${u}" y="${y}${u}" width="${w}${u}" height="${h}${u}" rx="${w / 8}${u}"/>`),
				drawing(plain)
			);
			same(
				drawing(
					`<rect x="7" style="x: ${x}${u}; y:${y}${u};width:${w}${u}; height: ${h}${u};rx:${w / 8}${u}"/>`
				),
				drawing(plain)
			);
			same(
				drawing(`<ellipse cx="${x}%" cy="${y}%" rx="${w}%" ry="${h}%"/><circle cx="50%" r="${w}%"/>`),
				drawing(
					`<ellipse cx="${2 * x}" cy="${y}" rx="${2 * w}" ry="${h}"/><circle cx="100" r="${(w / 100) * Math.sqrt(25000)}"/>`
				)
			);
		})
	);
});

test('a side that is not given follows from the shape of the box', () => {
	const square = '<rect x="5" y="6" width="10" height="10"/>';
	const box = 'viewBox="5 6 40 20"';
	for (const sides of [
		'width="8cm"',
		'height="4cm"',
		'width="8cm" height="auto"',
		'style="height:40mm" width="100%"'
	]) {
		const { width, height, outlines } = read(`<svg ${box} ${sides}>${square}</svg>`);
		near([width, height], [0.08, 0.04]);
		near([outlines[0].points[2] - outlines[0].points[0]], [0.02]);
	}
	near([read(`<svg ${box}>${square}</svg>`).width], [40 * PX]);
});

test('a box fits its window as it says: in the middle, at an edge, beyond it, or pulled to its size', () => {
	const all = '<rect width="40" height="20"/>';
	const fit = (preserve: string) =>
		edges(
			read(`<svg width="100" height="100" viewBox="0 0 40 20" preserveAspectRatio="${preserve}">${all}</svg>`)
		);
	near(fit(''), [-50, -25, 50, 25]);
	near(fit('xMidYMid meet'), [-50, -25, 50, 25]);
	near(fit('xMinYMin'), [-50, -50, 50, 0]);
	near(fit('xMaxYMax meet'), [-50, 0, 50, 50]);
	near(fit('xMidYMid slice'), [-100, -50, 100, 50]);
	near(fit('xMinYMid slice'), [-50, -50, 150, 50]);
	near(fit('none'), [-50, -50, 50, 50]);
});

test('a drawing within a drawing stands where its window says', () => {
	fc.assert(
		fc.property(number, number, size, size, number, number, size, (x, y, w, h, left, top, wide) => {
			const high = (wide * h) / w;
			const shape = `<circle cx="${left + wide / 2}" cy="${top + high / 2}" r="${wide / 9}" transform="rotate(20)"/>`;
			const scale = w / wide;
			same(
				drawing(
					`<g transform="scale(0.5)"><svg x="${x}" y="${y}" width="${w}" height="${h}" overflow="visible" viewBox="${left} ${top} ${wide} ${high}">${shape}</svg></g>`
				),
				drawing(
					`<g transform="scale(0.5) translate(${x} ${y}) scale(${scale}) translate(${-left} ${-top})">${shape}</g>`
				)
			);
		})
	);
	// Without a size it fills the window it lies in; shares within it are its own.
	same(
		drawing(
			'<svg x="10%" y="0" width="50%" viewBox="0 0 10 10" preserveAspectRatio="none"><rect width="50%" height="2"/></svg>'
		),
		drawing('<rect x="20" width="50" height="20"/>')
	);
	const cut = drawing('<svg x="10" y="10" width="20" height="20"><circle r="30"/></svg>');
	assert.deepEqual(cut.ignored, ['cutting off at the edge of a nested <svg>']);
	assert.deepEqual(drawing('<svg width="20" height="20"><circle cx="10" cy="10" r="9"/></svg>').ignored, []);
});

test('transforms in a style are those of the attribute, with their units and their origin', () => {
	const shape = (attributes: string) => drawing(`<rect x="4" y="6" width="30" height="10" ${attributes}/>`);
	fc.assert(
		fc.property(number, number, fc.integer({ min: -360, max: 360 }), size, (x, y, turn, factor) => {
			same(
				shape(`style="transform: translate(${x}px, ${y}mm) rotate(${turn}deg) scale(${factor}%)"`),
				shape(`transform="translate(${x} ${y * UNITS.mm}) rotate(${turn}) scale(${factor / 100})"`)
			);
			same(
				shape(`style="transform:rotate(${turn / 360}turn);transform-origin:${x}px ${y}px"`),
				shape(`transform="rotate(${turn},${x},${y})"`)
			);
			same(
				shape(`transform="rotate(${turn})" transform-origin="25% bottom"`),
				shape(`transform="rotate(${turn} 50 100)"`)
			);
			same(
				shape(
					`style="transform: translateX(10%) translateY(${y}px) scaleX(2) scaleY(0.5) skew(10deg, 5deg)"`
				),
				shape(
					`transform="translate(20 ${y}) scale(2 0.5) matrix(1 ${Math.tan(Math.PI / 36)} ${Math.tan(Math.PI / 18)} 1 0 0)"`
				)
			);
			same(
				shape(`style="transform:matrix(1, 0, 0.5, 2, ${x}, ${y}) rotate(100grad)" transform="scale(9)"`),
				shape(`transform="matrix(1 0 .5 2 ${x} ${y}),rotate(90)"`)
			);
		})
	);
	same(
		drawing('<rect width="30" height="10"/>', 'transform="rotate(90)"'),
		drawing('<rect x="90" y="-50" width="30" height="10" transform="rotate(90 100 50) translate(-90 50)"/>')
	);
});

test('what is not understood is left out, and said with where; all else is drawn', () => {
	for (const [inside, said, drawn] of [
		['<circle id="knob" r="3em"/>', '<circle> “knob”, as its r is “3em”', 0],
		['<rect width="3wide" height="2"/>', '<rect>, as its width is “3wide”', 0],
		[
			'<g transform="rotate3d(1, 2, 3, 4deg)"><circle r="3"/></g>',
			'transform “rotate3d(1, 2, 3, 4deg)” of <g>',
			1
		],
		['<circle r="3" transform="rotate(1 2)"/>', 'transform “rotate(1 2)” of <circle>', 1],
		['<circle r="3" style="rotate: 20deg"/>', 'rotate in the style of <circle>', 1],
		[
			'<circle r="3" style="transform: rotate(9deg); transform-box: fill-box; transform-origin: center"/>',
			'transform “rotate(9deg)” of <circle>',
			1
		],
		['<g clip-path="url(#cut)"><circle r="3"/></g>', 'clip-path of <g>', 1],
		['<circle id="moon" r="3" style="mask: url(#m)"/>', 'mask of <circle> “moon”', 1],
		[
			'<style>.far { transform: scale(3) }</style><circle class="far" r="3"/>',
			'rules in <style> that move, resize or hide',
			1
		],
		['<use href="#a"/><circle r="2"/>', '<use>', 1],
		['<svg width="3em" height="5"><circle r="2"/></svg>', 'a nested <svg>, as its width is “3em”', 0]
	] as const) {
		const { ignored, outlines } = drawing(inside);
		assert.deepEqual([...ignored], [said]);
		assert.equal(outlines.length, drawn, inside);
	}
	assert.deepEqual(drawing('<style>.a { fill: red }</style><circle r="2"/>').ignored, []);
	assert.equal(
		drawing('<g style="visibility: hidden"><circle r="2"/></g><circle r="3" display="none"/>').outlines
			.length,
		0
	);
});

test('long words, open brackets and endless lengths are read once, and end', () => {
	const long = 200_000;
	for (const attribute of [
		`transform="${'a'.repeat(long)}"`,
		`transform="rotate(${'('.repeat(long)}"`,
		`transform="${' ,'.repeat(long)}"`,
		`transform="scale(${'1 '.repeat(long)})"`,
		`style="transform:${'scale(1)'.repeat(long / 100)} x"`,
		`style="${':'.repeat(long)}"`
	])
		assert.equal(drawing(`<circle r="5" ${attribute}/>`).outlines.length, 1, attribute.slice(0, 40));
	for (const length of ['1'.repeat(long), `1${' '.repeat(long)}x`, `${'1.'.repeat(long)}`])
		assert.equal(drawing(`<circle r="${length}"/>`).ignored.length, 1);
});
