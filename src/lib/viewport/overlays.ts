/** What is drawn over the picture, through shapes: zones, axes of a source, the tide staff, measurements. */
import * as THREE from 'three';
import type { Bounds } from '$core/geometry/measure';
import type { MarkName, Marks } from '$core/session/messages';
import type { LightUniforms } from './surface';
import type { Axis } from './axis-colours';
import { axisColours, axisOf } from './axis-colours';
import { surfaceMaterial } from './surface';

const CORAL = 0xd2482f;
/** What each sort of line over elements is drawn in. */
const LINES: Readonly<Record<Exclude<MarkName, Axis>, number>> = {
	order: 0x8c2f5d,
	normals: 0x1f7a70,
	tangents: 0xb27a12
};

/** A zone as it is drawn: lengths in metres, angles in degrees. */
export interface ZoneShown {
	shape: string;
	centre: readonly number[];
	rotate: readonly number[];
	size: readonly number[];
	inner: number;
	outer: number;
	/** Where something was, or will be. */
	isFaint?: boolean;
}

/** The outlines of a zone's shape, one metre wide. */
function zoneShape(shape: string): THREE.BufferGeometry {
	if (shape === 'box') return new THREE.EdgesGeometry(new THREE.BoxGeometry(1, 1, 1));
	if (shape === 'half-space')
		return new THREE.EdgesGeometry(new THREE.PlaneGeometry(1, 1).rotateX(-Math.PI / 2));
	if (shape === 'cylinder') return new THREE.EdgesGeometry(new THREE.CylinderGeometry(0.5, 0.5, 1, 32), 12);
	const points: THREE.Vector3[] = [];
	for (let axis = 0; axis < 3; axis++)
		for (let i = 0; i < 48; i++)
			for (const k of [i, i + 1]) {
				const [c, s] = [Math.cos((k * Math.PI) / 24) / 2, Math.sin((k * Math.PI) / 24) / 2];
				points.push(
					axis === 0
						? new THREE.Vector3(0, c, s)
						: axis === 1
							? new THREE.Vector3(c, 0, s)
							: new THREE.Vector3(c, s, 0)
				);
			}
	return new THREE.BufferGeometry().setFromPoints(points);
}

export class Overlays extends THREE.Group {
	/** Whether it lies on a dark ground. */
	dark = false;
	readonly #light: LightUniforms;

	constructor(light: LightUniforms) {
		super();
		this.#light = light;
	}

	#clear(what: string): void {
		for (const child of [...this.children]) if (child.userData[what]) this.remove(child);
	}

	/** Shows bounds as lines through shapes: boxes, spheres and cylinders about a place, the inner one full, the outer thin. */
	showZones(zones: readonly ZoneShown[]): void {
		this.#clear('zone');
		for (const zone of zones) {
			const group = new THREE.Group();
			group.userData.zone = true;
			for (const [bound, opacity] of [
				[zone.inner, 0.9],
				[zone.outer, 0.4]
			]) {
				const lines = new THREE.LineSegments(
					zoneShape(zone.shape),
					new THREE.LineBasicMaterial({
						color: CORAL,
						transparent: true,
						opacity: zone.isFaint ? opacity / 3 : opacity,
						depthTest: false
					})
				);
				if (zone.shape === 'half-space') {
					lines.position.y = bound;
					lines.scale.setScalar(3);
				} else
					lines.scale.set(
						...(zone.size.map((s) => Math.max(1e-4, s + 2 * bound)) as [number, number, number])
					);
				lines.renderOrder = 10;
				group.add(lines);
			}
			const [x, y, z] = zone.rotate.map(THREE.MathUtils.degToRad);
			group.rotation.set(x, y, z, 'ZYX');
			group.position.set(...(zone.centre as [number, number, number]));
			this.add(group);
		}
	}

	/** Arrows that show a source's up and forward, at a place. */
	showAxes(axes: { up: readonly number[]; forward: readonly number[]; size: number } | null): void {
		this.#clear('axes');
		if (axes) {
			for (const vector of [axes.up, axes.forward]) {
				const arrow = new THREE.ArrowHelper(
					new THREE.Vector3(...(vector as [number, number, number])),
					new THREE.Vector3(),
					axes.size,
					axisColours(this.dark)[axisOf(vector)],
					axes.size * 0.22,
					axes.size * 0.12
				);
				for (const part of [arrow.line, arrow.cone]) {
					(part.material as THREE.Material).depthTest = false;
					part.renderOrder = 10;
				}
				arrow.userData.axes = true;
				this.add(arrow);
			}
		}
	}

	/** A banded staff of 2 m beside what was imported. */
	showStaff(beside: Bounds | null): void {
		this.#clear('staff');
		if (beside) {
			const staff = new THREE.Group();
			for (let i = 0; i < 10; i++) {
				const band = new THREE.Mesh(
					new THREE.CylinderGeometry(0.03, 0.03, 0.2, 12),
					surfaceMaterial(this.#light, {
						colour: new THREE.Color(i % 2 ? 0xfffdf8 : CORAL).toArray() as [number, number, number],
						opacity: 1,
						roughness: 0.8,
						metallic: 0,
						side: THREE.FrontSide
					})
				);
				band.position.y = 0.1 + 0.2 * i;
				staff.add(band);
			}
			staff.position.set(beside.low[0] - 0.3, beside.low[1], beside.high[2]);
			staff.userData.staff = true;
			this.add(staff);
		}
	}

	/** Shows the two ends of a measurement. */
	showMeasure(points: readonly THREE.Vector3[], dotSize: number): void {
		this.#showDots('measure', points, dotSize);
	}

	/** Lines in the order of elements and along their directions, and dots on those of a group. */
	showElementMarks(all: readonly Marks[], dotSize: number): void {
		this.#clear('elements');
		const group = new THREE.Group();
		group.userData.elements = true;
		const colours = { ...LINES, ...axisColours(this.dark) };
		for (const { lines, dots } of all) {
			for (const { name, ends } of lines) {
				if (!ends.length) continue;
				const shape = new THREE.BufferGeometry();
				shape.setAttribute('position', new THREE.BufferAttribute(ends, 3));
				group.add(new THREE.LineSegments(shape, new THREE.LineBasicMaterial({ color: colours[name] })));
			}
			if (!dots.length) continue;
			const places = new THREE.BufferGeometry();
			places.setAttribute('position', new THREE.BufferAttribute(dots, 3));
			const material = new THREE.PointsMaterial({ color: CORAL, size: 2 * dotSize, depthTest: false });
			group.add(new THREE.Points(places, material));
		}
		for (const child of group.children) child.renderOrder = 10;
		if (group.children.length) this.add(group);
	}

	/** Marks a place: where a row of the table stands. */
	showMarked(at: readonly number[] | null, dotSize: number): void {
		this.#showDots('marked', at ? [new THREE.Vector3(...(at as [number, number, number]))] : [], dotSize);
	}

	#showDots(what: string, points: readonly THREE.Vector3[], dotSize: number): void {
		this.#clear(what);
		if (points.length) {
			const group = new THREE.Group();
			group.userData[what] = true;
			const material = new THREE.MeshBasicMaterial({ color: CORAL, depthTest: false });
			for (const point of points) {
				const dot = new THREE.Mesh(new THREE.SphereGeometry(dotSize, 12, 8), material);
				dot.position.copy(point);
				dot.renderOrder = 11;
				group.add(dot);
			}
			if (points.length === 2) {
				const line = new THREE.Line(
					new THREE.BufferGeometry().setFromPoints([...points]),
					new THREE.LineBasicMaterial({ color: CORAL, depthTest: false })
				);
				line.renderOrder = 11;
				group.add(line);
			}
			this.add(group);
		}
	}
}
