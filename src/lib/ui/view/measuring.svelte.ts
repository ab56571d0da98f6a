/** Measuring between two points of the view. */
import type { Vector3 } from 'three';
import type { ViewScene } from '$lib/viewport/scene';

export class Measuring {
	on = $state(false);
	ends = $state.raw<Vector3[]>([]);
	/** The distance in words, and where it stands on the canvas. */
	label = $state.raw<{ x: number; y: number; text: string } | null>(null);
	readonly #scene: () => ViewScene | undefined;

	constructor(scene: () => ViewScene | undefined) {
		this.#scene = scene;
	}
	toggle(): void {
		this.on = !this.on;
		if (!this.on) this.#show([]);
	}
	/** Takes the point under the pointer; a third one begins anew. */
	click(x: number, y: number): void {
		const hit = this.on && this.#scene()?.pick(x, y);
		if (hit) this.#show(this.ends.length >= 2 ? [hit.point] : [...this.ends, hit.point]);
	}
	/** Places the label anew, after the camera has moved. */
	placeLabel(): void {
		const scene = this.#scene();
		const [a, b] = this.ends;
		if (!scene || !a || !b) return void (this.label = null);
		const { x, y } = scene.project(a.clone().add(b).multiplyScalar(0.5));
		const d = a.distanceTo(b);
		this.label = { x, y, text: d < 1 ? `${(d * 100).toFixed(1)} cm` : `${d.toFixed(3)} m` };
	}
	#show(ends: Vector3[]): void {
		this.ends = ends;
		this.#scene()?.showMeasure(ends);
		this.placeLabel();
	}
}
