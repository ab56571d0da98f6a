/** The two cameras, with perspective and without: where they stand, and how much they show. */
import * as THREE from 'three';
import type { Bounds } from '$core/geometry/measure';

export type Direction = 'perspective' | 'top' | 'front' | 'east';

/** How much of the picture's width or height what is fitted takes. */
const FILLED = 0.88;
const WAYS: Record<Direction, readonly [number, number, number]> = {
	top: [0, 1, 0.0001],
	front: [0, 0, 1],
	east: [1, 0, 0],
	perspective: [0.62, 0.42, 0.66]
};
/** What is fitted where there is nothing. */
const NOTHING: Bounds = { low: [-2, 0, -2], high: [2, 2, 2] };

const boxOf = ({ low, high }: Bounds) =>
	new THREE.Box3(new THREE.Vector3(...low), new THREE.Vector3(...high));
const cornersOf = ({ min, max }: THREE.Box3): THREE.Vector3[] =>
	[min.x, max.x].flatMap((x) =>
		[min.y, max.y].flatMap((y) => [min.z, max.z].map((z) => new THREE.Vector3(x, y, z)))
	);

export class Cameras {
	readonly perspective = new THREE.PerspectiveCamera(40, 1, 0.01, 5000);
	readonly flat = new THREE.OrthographicCamera(-1, 1, 1, -1, -5000, 5000);
	/** The one in use. */
	active: THREE.PerspectiveCamera | THREE.OrthographicCamera = this.perspective;
	/** What it looks at. */
	target = new THREE.Vector3();

	get distance(): number {
		return this.active.position.distanceTo(this.target);
	}

	/** How far away the ground seems, for whoever draws on it. */
	get reach(): number {
		return this.active === this.flat ? (this.flat.top / this.flat.zoom) * 2.6 : this.distance;
	}

	set aspect(aspect: number) {
		this.perspective.aspect = aspect;
		this.perspective.updateProjectionMatrix();
		this.#shapeFlat();
	}
	get aspect(): number {
		return this.perspective.aspect;
	}

	/** The height that the one with perspective sees at a distance of one, halved. */
	get #slope(): number {
		return Math.tan(THREE.MathUtils.degToRad(this.perspective.fov / 2));
	}

	/** The flat camera shows as much as the other one does at its target. */
	#shapeFlat(): void {
		const half = this.perspective.position.distanceTo(this.target) * this.#slope;
		this.flat.top = half;
		this.flat.bottom = -half;
		this.flat.left = -half * this.aspect;
		this.flat.right = half * this.aspect;
		this.flat.updateProjectionMatrix();
	}

	/** Moves so that the box fills the picture, looking as before. */
	fit(bounds: Bounds | null): void {
		const box = boxOf(bounds ?? NOTHING);
		const centre = box.getCenter(new THREE.Vector3());
		const way = this.active.position.clone().sub(this.target).normalize();
		const distance = this.#distanceFor(box, centre, way);
		this.target.copy(centre);
		for (const camera of [this.active, this.perspective])
			camera.position.copy(centre).addScaledVector(way, distance);
		this.flat.zoom = 1;
		const radius = box.getSize(new THREE.Vector3()).length() / 2;
		this.perspective.near = distance / 500;
		this.perspective.far = 60 * (distance + radius);
		this.perspective.updateProjectionMatrix();
		this.#shapeFlat();
		this.active.lookAt(centre);
	}

	/** How far from the centre, in a direction, all corners of a box are seen with a rim around them. */
	#distanceFor(box: THREE.Box3, centre: THREE.Vector3, way: THREE.Vector3): number {
		const right = new THREE.Vector3(0, 1, 0).cross(way);
		if (right.lengthSq() < 1e-8) right.set(1, 0, 0);
		right.normalize();
		const up = way.clone().cross(right);
		const high = FILLED * this.#slope,
			wide = high * this.aspect;
		let distance = 0.02;
		for (const corner of cornersOf(box)) {
			corner.sub(centre);
			const side = Math.max(Math.abs(corner.dot(right)) / wide, Math.abs(corner.dot(up)) / high);
			distance = Math.max(distance, this.active === this.flat ? side : side + corner.dot(way));
		}
		return distance;
	}

	/** Whether a box lies wholly within the picture. */
	sees(bounds: Bounds): boolean {
		this.active.updateMatrixWorld();
		return cornersOf(boxOf(bounds)).every((corner) => {
			const { x, y, z } = corner.project(this.active);
			return Math.abs(x) <= 1 && Math.abs(y) <= 1 && Math.abs(z) <= 1;
		});
	}

	/** Looks from a direction at the same target, from as far. */
	look(direction: Direction): void {
		const distance = Math.max(0.1, this.perspective.position.distanceTo(this.target));
		const next = direction === 'perspective' ? this.perspective : this.flat;
		if (direction === 'perspective' && this.active === this.perspective) return;
		next.position
			.copy(this.target)
			.addScaledVector(new THREE.Vector3(...WAYS[direction]).normalize(), distance);
		this.perspective.position.copy(next.position);
		this.active = next;
		this.flat.zoom = 1;
		this.#shapeFlat();
		next.lookAt(this.target);
	}

	/** Turns, moves or nears by a step, as from the keyboard. */
	nudge(kind: 'orbit' | 'pan' | 'zoom', x: number, y: number): void {
		const offset = this.active.position.clone().sub(this.target);
		if (kind === 'zoom') {
			if (this.active === this.flat) {
				this.flat.zoom *= y > 0 ? 1.15 : 1 / 1.15;
				this.flat.updateProjectionMatrix();
			} else offset.multiplyScalar(y > 0 ? 1 / 1.15 : 1.15);
		} else if (kind === 'orbit') {
			const s = new THREE.Spherical().setFromVector3(offset);
			s.theta -= x * 0.1;
			s.phi = Math.max(0.02, Math.min(Math.PI - 0.02, s.phi - y * 0.1));
			offset.setFromSpherical(s);
		} else {
			const step = offset.length() * 0.05;
			for (const [column, by] of [
				[0, x],
				[1, y]
			])
				this.target.add(
					new THREE.Vector3().setFromMatrixColumn(this.active.matrix, column).multiplyScalar(by * step)
				);
		}
		this.active.position.copy(this.target).add(offset);
	}

	/** Where they stand now; calling the answer puts them back. */
	keep(): () => void {
		const [target, active, perspective] = [this.target, this.active.position, this.perspective.position].map(
			(v) => v.clone()
		);
		const quaternion = this.active.quaternion.clone();
		const { zoom } = this.flat;
		const { near, far, aspect } = this.perspective;
		return () => {
			this.target.copy(target);
			this.perspective.position.copy(perspective);
			this.active.position.copy(active);
			this.active.quaternion.copy(quaternion);
			this.flat.zoom = zoom;
			this.perspective.near = near;
			this.perspective.far = far;
			this.aspect = aspect;
		};
	}
}
