/** The two cameras, with perspective and without: where they stand, and how much they show. */
import * as THREE from 'three';
import type { CameraSeen } from '$core/engine/camera-seen';
import type { Bounds } from '$core/geometry/measure';

export type Direction = 'perspective' | 'top' | 'front' | 'east';

/** How much of the picture's width or height what is fitted takes: 8 % are left free on each side. */
const FILLED = 0.84;
/** Degrees above the horizon from which flat and tall things are looked at. */
const HEIGHTS = { flat: 34, tall: 11 };
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
const vectorsOf = (points: Float32Array): THREE.Vector3[] =>
	Array.from({ length: points.length / 3 }, (_, i) => new THREE.Vector3().fromArray(points, 3 * i));
const cornersOf = ({ min, max }: THREE.Box3): THREE.Vector3[] =>
	[min.x, max.x].flatMap((x) =>
		[min.y, max.y].flatMap((y) => [min.z, max.z].map((z) => new THREE.Vector3(x, y, z)))
	);

/** Degrees from the lower to the upper rim, where no *Camera* says otherwise. */
const USUAL_ANGLE = 40;

export class Cameras {
	readonly perspective = new THREE.PerspectiveCamera(USUAL_ANGLE, 1, 0.01, 5000);
	readonly flat = new THREE.OrthographicCamera(-1, 1, 1, -1, -5000, 5000);
	/** The one in use. */
	active: THREE.PerspectiveCamera | THREE.OrthographicCamera = this.perspective;
	/** What it looks at. */
	target = new THREE.Vector3();

	/** Half of the height that a straight *Camera* shows, while it is looked through. */
	#half: number | null = null;

	constructor() {
		this.reset();
	}

	/** Where they stand before anything was looked at. */
	reset(): void {
		this.active = this.perspective;
		this.#half = null;
		this.perspective.fov = USUAL_ANGLE;
		this.perspective.updateProjectionMatrix();
		this.flat.zoom = 1;
		this.target.set(0, 0, 0);
		this.perspective.position.set(8, 5, 9);
		this.perspective.lookAt(this.target);
		this.#shapeFlat();
	}

	/** As it stands now. */
	get seen(): CameraSeen {
		return {
			position: this.active.position.toArray(),
			target: this.target.toArray(),
			half: this.active === this.flat ? this.flat.top / this.flat.zoom : null,
			angle: this.perspective.fov
		};
	}

	/** Stands exactly so. */
	see({ position, target, half, angle }: CameraSeen): void {
		this.active = half === null ? this.perspective : this.flat;
		this.target.fromArray(target as number[]);
		this.perspective.fov = angle;
		for (const camera of [this.perspective, this.flat]) {
			camera.position.fromArray(position as number[]);
			camera.lookAt(this.target);
		}
		const distance = Math.max(1e-6, this.distance);
		this.perspective.near = distance / 500;
		this.perspective.far = distance * 500;
		this.perspective.updateProjectionMatrix();
		this.#half = half;
		if (half !== null) this.flat.zoom = 1;
		this.#shapeFlat();
		this.active.updateMatrixWorld();
	}

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
		const half = this.#half ?? this.perspective.position.distanceTo(this.target) * this.#slope;
		this.flat.top = half;
		this.flat.bottom = -half;
		this.flat.left = -half * this.aspect;
		this.flat.right = half * this.aspect;
		this.flat.updateProjectionMatrix();
	}

	/**
	 * Moves so that what lies in a box fills the picture, looking as before: a rim is left free, and it stands in the middle.
	 * @param points of what lies there; the box’s corners where none are given.
	 */
	fit(bounds: Bounds | null, points: Float32Array | null = null): void {
		const box = boxOf(bounds ?? NOTHING);
		const centre = box.getCenter(new THREE.Vector3());
		const way = this.active.position.clone().sub(this.target).normalize();
		if (way.lengthSq() < 0.5) way.set(...WAYS.perspective).normalize();
		const { distance, shift } = this.#placeFor(
			points?.length ? vectorsOf(points) : cornersOf(box),
			centre,
			way
		);
		this.target.copy(centre).add(shift);
		this.#half = null;
		for (const camera of [this.active, this.perspective])
			camera.position.copy(this.target).addScaledVector(way, distance);
		this.flat.zoom = 1;
		const radius = box.getSize(new THREE.Vector3()).length() / 2;
		this.perspective.near = distance / 500;
		this.perspective.far = 60 * (distance + radius);
		this.perspective.updateProjectionMatrix();
		this.#shapeFlat();
		this.active.lookAt(this.target);
	}

	/** Looks at a box from a height that suits its shape: down on what is flat, level at what is tall. */
	raise(bounds: Bounds | null): void {
		const size = boxOf(bounds ?? NOTHING).getSize(new THREE.Vector3());
		const wide = Math.max(size.x, size.z, 1e-9);
		const flatness = 1 - Math.min(1, size.y / wide / 1.4);
		const up = THREE.MathUtils.degToRad(HEIGHTS.tall + (HEIGHTS.flat - HEIGHTS.tall) * flatness);
		// What is long is seen from its side, a little from the end.
		const [x, , z] = WAYS.perspective;
		const turn =
			size.z > 1.8 * size.x
				? Math.atan2(0.86, 0.5)
				: size.x > 1.8 * size.z
					? Math.atan2(0.5, 0.86)
					: Math.atan2(x, z);
		const distance = Math.max(0.1, this.distance);
		this.active.position
			.copy(this.target)
			.add(
				new THREE.Vector3(
					Math.cos(up) * Math.sin(turn),
					Math.sin(up),
					Math.cos(up) * Math.cos(turn)
				).multiplyScalar(distance)
			);
	}

	/**
	 * How far from the centre, in a direction, some places fill the picture but for its rim, and how far aside the target must lie
	 * so that they stand in the middle: what is nearer looks larger.
	 */
	#placeFor(
		places: readonly THREE.Vector3[],
		centre: THREE.Vector3,
		way: THREE.Vector3
	): { distance: number; shift: THREE.Vector3 } {
		const right = new THREE.Vector3(0, 1, 0).cross(way);
		if (right.lengthSq() < 1e-8) right.set(1, 0, 0);
		right.normalize();
		const up = way.clone().cross(right);
		const isFlat = this.active === this.flat;
		const corners = places.map((corner) => {
			corner.sub(centre);
			return { x: corner.dot(right), y: corner.dot(up), depth: isFlat ? 0 : corner.dot(way) };
		});
		const room = { x: FILLED * this.#slope * this.aspect, y: FILLED * this.#slope };
		let distance = 0.02;
		const aside = { x: 0, y: 0 };
		// A few rounds: the distance for a place, then the place for the distance.
		for (let round = 0; round < 12; round++) {
			distance = 0.02;
			for (const axis of ['x', 'y'] as const)
				for (const corner of corners)
					distance = Math.max(distance, Math.abs(corner[axis] - aside[axis]) / room[axis] + corner.depth);
			for (const axis of ['x', 'y'] as const) {
				const seen = corners.map(
					(corner) => (corner[axis] - aside[axis]) / Math.max(1e-6, distance - corner.depth)
				);
				const [low, high] = seen.reduce(
					([least, most], x) => [Math.min(least, x), Math.max(most, x)],
					[Infinity, -Infinity]
				);
				aside[axis] += ((low + high) / 2) * distance * 0.9;
			}
		}
		return { distance, shift: right.multiplyScalar(aside.x).addScaledVector(up, aside.y) };
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
		this.#half = null;
		this.perspective.fov = USUAL_ANGLE;
		this.perspective.updateProjectionMatrix();
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
		const half = this.#half;
		return () => {
			this.target.copy(target);
			this.perspective.position.copy(perspective);
			this.active.position.copy(active);
			this.active.quaternion.copy(quaternion);
			this.flat.zoom = zoom;
			this.perspective.near = near;
			this.perspective.far = far;
			this.#half = half;
			this.aspect = aspect;
		};
	}
}
