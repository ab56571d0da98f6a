/** A drawn curve under edit in the View: its points on the screen, and what can be done to them. */
import { isPath } from '$core/engine/index';
import { canSplit, joinAt, piecesOf, samplePath, splitAt, withoutPoint } from '$core/kernels/path';
import type { GraphNode, Setting } from '$core/engine/index';
import type { PathPoint } from '$core/nodes/index';
import type { Editor } from '$lib/editor/editor.svelte';
import { Vector3 } from 'three';
import type { ViewScene } from '$lib/viewport/scene';

type Place = [number, number, number];
export type Grip = { point: number; part: 'at' | 'in' | 'out' } | 'whole';
export type DrawPlane = 'ground' | 'upright' | 'surface';

const sum = (a: readonly number[], b: readonly number[]) => a.map((x, k) => x + b[k]) as Place;
/** Points of the drawn line between two control points. */
const STEPS = 12;

export class PathEdit {
	isDrawing = $state(false);
	plane = $state<DrawPlane>('ground');
	/** Metres to which places are rounded; 0 for none. */
	snap = $state(0);
	chosen = $state<number | null>(null);
	#held: { grip: Grip; start: Place; before: readonly PathPoint[] } | null = null;
	readonly #of: () => { editor: Editor; scene: ViewScene; node: GraphNode };

	constructor(of: () => { editor: Editor; scene: ViewScene; node: GraphNode }) {
		this.#of = of;
	}

	get node(): GraphNode {
		return this.#of().node;
	}
	get points(): readonly PathPoint[] {
		const { path } = this.node.settings;
		return isPath(path) ? (path.path as PathPoint[]) : [];
	}
	get #bezier(): boolean {
		return this.node.settings.type === 'bezier';
	}
	get #closed(): boolean {
		return this.node.settings.closed === true;
	}
	#project(p: readonly number[]) {
		return this.#of().scene.project(new Vector3(...(p as Place)));
	}

	/** Where the points and their handles stand on the screen. */
	get shown() {
		return this.points.map((p) => ({
			at: this.#project(p.at),
			in: this.#bezier && p.in ? this.#project(sum(p.at, p.in)) : null,
			out: this.#bezier && p.out ? this.#project(sum(p.at, p.out)) : null
		}));
	}

	/** The curve itself, over whatever it lies in. */
	get line(): string {
		return piecesOf(this.points)
			.map((piece) => {
				const flat = samplePath(piece, this.node.settings.type as 'through', this.#closed, STEPS);
				const places: string[] = [];
				for (let i = 0; i < flat.length; i += 3) {
					const { x, y } = this.#project(flat.slice(i, i + 3));
					places.push(`${x.toFixed(1)} ${y.toFixed(1)}`);
				}
				if (this.#closed && piece.length > 2) places.push(places[0]);
				return places.length > 1 ? `M${places.join('L')}` : '';
			})
			.join('');
	}

	#snapped(p: Place): Place {
		const { snap } = this;
		return p
			.map((x) => (snap > 0 ? Math.round(x / snap) * snap : Math.round(x * 1000) / 1000))
			.map((x) => Number(x.toFixed(4))) as Place;
	}

	/** The place under the pointer, on the chosen plane. */
	#placeAt(event: PointerEvent | MouseEvent, through: readonly number[]): Place | null {
		const { scene, node } = this.#of();
		if (this.plane === 'surface') {
			const hit = scene.pick(event.clientX, event.clientY);
			if (hit && hit.node !== node.id) return this.#snapped(hit.point.toArray());
		}
		const facing = this.plane === 'upright' ? 'view' : ([0, 1, 0] as const);
		const place = scene.onPlane(event.clientX, event.clientY, through, facing as never);
		return place && this.#snapped(place);
	}

	#put(path: readonly PathPoint[], gesture: string | null = null): void {
		const { editor, node } = this.#of();
		editor.set(node.id, 'path', { path } as unknown as Setting, gesture);
		if (!gesture) editor.endGesture();
	}

	/** A point more at the end, where the artist clicks while drawing. */
	add(event: MouseEvent): void {
		if (!this.isDrawing) return;
		const { points } = this;
		const last = points.at(-1)?.at ?? [0, 0, 0];
		const at = this.#placeAt(event, this.plane === 'ground' ? [0, last[1], 0] : last);
		if (!at) return;
		const point: PathPoint = { at };
		if (this.#bezier) {
			// Handles along the way come from, a third of it long.
			const way = points.length ? at.map((x, k) => (x - last[k]) / 3) : [0.5, 0, 0];
			point.out = way as Place;
			point.in = way.map((x) => -x) as Place;
		}
		this.#put([...points, point]);
		this.chosen = points.length;
	}
	/** Halfway to the next point, or from the one before where a curve ends. */
	insertAfter(i: number): void {
		const { points } = this;
		const atEnd = points[i].ends || (i === points.length - 1 && !this.#closed);
		const [a, b] = atEnd && i > 0 ? [i - 1, i] : [i, (i + 1) % points.length];
		const at = points[a].at.map((x, k) => (x + points[b].at[k]) / 2) as Place;
		const point: PathPoint = this.#bezier ? { at, in: [-0.2, 0, 0], out: [0.2, 0, 0] } : { at };
		this.#put([...points.slice(0, a + 1), point, ...points.slice(a + 1)]);
		this.chosen = a + 1;
	}
	remove(i: number): void {
		this.#put(withoutPoint(this.points, i));
		this.chosen = null;
	}

	get isSplittable(): boolean {
		const { chosen, points } = this;
		return chosen !== null && !!points[chosen] && canSplit(points, chosen, this.#closed);
	}
	/** Which point's curve would go on with the next: 0 for the chosen one, 1 for the one before it, −1 for neither. */
	get joint(): number {
		const { chosen, points } = this;
		return chosen === null ? -1 : [chosen, chosen - 1].findIndex((i) => points[i]?.ends && points[i + 1]);
	}
	split(): void {
		const { chosen, points } = this;
		if (chosen === null) return;
		const { editor, node } = this.#of();
		const wasClosed = this.#closed;
		const next = splitAt(points, chosen, wasClosed);
		editor.update(node.id, 'Split a curve', {
			settings: { ...node.settings, path: { path: next.path } as unknown as Setting, closed: next.closed }
		});
		this.chosen = wasClosed ? 0 : chosen;
	}
	join(): void {
		const { chosen, joint } = this;
		if (chosen === null || joint < 0) return;
		this.#put(joinAt(this.points, chosen - joint));
		this.chosen = chosen - joint;
	}

	hold(grip: Grip): void {
		const { points } = this;
		if (grip !== 'whole') this.chosen = grip.point;
		const of = points[grip === 'whole' ? 0 : grip.point];
		const start = grip === 'whole' || grip.part === 'at' ? of.at : sum(of.at, of[grip.part]!);
		this.#held = { grip, start: [...start] as Place, before: points };
	}
	/** @param alone a handle moves without the one across from it. */
	drag(event: PointerEvent, alone: boolean): void {
		if (!this.#held) return;
		const { grip, start, before } = this.#held;
		const to = this.#placeAt(event, start);
		if (!to) return;
		const step = to.map((x, k) => x - start[k]);
		this.#put(
			before.map((p, i) => {
				if (grip === 'whole') return { ...p, at: sum(p.at, step) };
				if (i !== grip.point) return p;
				return grip.part === 'at' ? { ...p, at: to } : withHandle(p, grip.part, to, alone);
			}),
			'path'
		);
	}
	letGo(): void {
		if (this.#held) this.#of().editor.endGesture();
		this.#held = null;
	}

	/** Arrows move a point, Delete takes it out, Insert puts one after it. Whether the key meant something. */
	key(event: KeyboardEvent, i: number): boolean {
		const step = this.snap || 0.1;
		const ways: Record<string, Place> = {
			ArrowLeft: [-step, 0, 0],
			ArrowRight: [step, 0, 0],
			ArrowUp: event.shiftKey ? [0, step, 0] : [0, 0, -step],
			ArrowDown: event.shiftKey ? [0, -step, 0] : [0, 0, step]
		};
		if (ways[event.key])
			this.#put(
				this.points.map((p, k) => (k === i ? { ...p, at: this.#snapped(sum(p.at, ways[event.key])) } : p))
			);
		else if (event.key === 'Delete' || event.key === 'Backspace') this.remove(i);
		else if (event.key === 'Insert') this.insertAfter(i);
		else return false;
		return true;
	}
}

/** A point with a handle moved to a place. The other handle stays in line, unless it is moved alone. */
function withHandle(p: PathPoint, part: 'in' | 'out', to: Place, alone: boolean): PathPoint {
	const handle = to.map((x, k) => Number((x - p.at[k]).toFixed(4))) as Place;
	const other = part === 'in' ? 'out' : 'in';
	const own = Math.hypot(...handle);
	if (alone || !own || !p[other]) return { ...p, [part]: handle };
	const length = Math.hypot(...p[other]);
	return { ...p, [part]: handle, [other]: handle.map((x) => (-x * length) / own) as Place };
}
