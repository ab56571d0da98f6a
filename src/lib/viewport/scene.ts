/** The three scene of the View: draws packets, on change only. Knows no Svelte. */
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js';
import type { Bounds } from '$core/geometry/measure';
import type { Packet, PacketDraw, PacketMaterial, PacketObject } from '$lib/worker/messages';

export type Shading = 'shaded' | 'wireframe' | 'both';
export type Direction = 'perspective' | 'top' | 'front' | 'east';
export type HandleMode = 'translate' | 'rotate' | 'scale';

/** What was made of a packet's object. */
interface Known {
	geometry: THREE.BufferGeometry;
	edges: THREE.BufferGeometry | null;
	/** For curves that are drawn wide, made when they first are. */
	wide?: LineSegmentsGeometry;
	packet: PacketObject;
}

interface Drawn {
	object: THREE.Object3D;
	draw: PacketDraw;
}

export interface HandleValues {
	move: [number, number, number];
	rotate: [number, number, number];
	scale: [number, number, number];
}

const CORAL = 0xd2482f;

/** Whether the browser has no graphics card to draw with. */
function drawsInSoftware(): boolean {
	const gl = document.createElement('canvas').getContext('webgl2');
	const info = gl?.getExtension('WEBGL_debug_renderer_info');
	const name = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
	gl?.getExtension('WEBGL_lose_context')?.loseContext();
	return /software|swiftshader|llvmpipe|basic render/i.test(name);
}

/** Cells from the middle of the ground's grid to its rim. */
const GROUND_REACH = 20;

/** The grid on the ground. Each line is cut at the cells: whole ones that pass behind the camera were lost when clipped. */
function makeGround(cell: number, main: THREE.Color, other: THREE.Color): THREE.LineSegments {
	const positions: number[] = [];
	const colours: number[] = [];
	for (let i = -GROUND_REACH; i <= GROUND_REACH; i++)
		for (let j = -GROUND_REACH; j < GROUND_REACH; j++) {
			positions.push(
				i * cell,
				0,
				j * cell,
				i * cell,
				0,
				(j + 1) * cell,
				j * cell,
				0,
				i * cell,
				(j + 1) * cell,
				0,
				i * cell
			);
			const { r, g, b } = i === 0 ? main : other;
			for (let k = 0; k < 4; k++) colours.push(r, g, b);
		}
	const geometry = new THREE.BufferGeometry();
	geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
	geometry.setAttribute('color', new THREE.Float32BufferAttribute(colours, 3));
	return new THREE.LineSegments(
		geometry,
		new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.85, depthWrite: false })
	);
}

/** Colours of the screen as linear light, which is what attributes hold. */
function linearColours(colours: Uint8Array): Uint16Array {
	const out = new Uint16Array(colours.length);
	for (let i = 0; i < colours.length; i++) out[i] = LINEAR[colours[i]];
	return out;
}
const LINEAR = Uint16Array.from({ length: 256 }, (_, i) => {
	const c = i / 255;
	return Math.round(65535 * (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
});

/** Pieces of curves that are still drawn wide; more of them are hair lines, which cost a tenth. */
const MOST_WIDE = 60_000;

/** Pieces of curves for wide lines; their positions are used as they lie. */
function wideGeometry({ positions, colours }: PacketObject): LineSegmentsGeometry {
	const wide = new LineSegmentsGeometry();
	wide.setPositions(positions);
	if (colours) wide.setColors(Float32Array.from(linearColours(colours), (c) => c / 65535));
	return wide;
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

export class ViewScene {
	readonly canvas: HTMLCanvasElement;
	readonly renderer: THREE.WebGLRenderer;
	readonly scene = new THREE.Scene();
	readonly #perspective = new THREE.PerspectiveCamera(40, 1, 0.01, 5000);
	readonly #flat = new THREE.OrthographicCamera(-1, 1, 1, -1, -5000, 5000);
	camera: THREE.PerspectiveCamera | THREE.OrthographicCamera = this.#perspective;
	readonly controls: OrbitControls;
	readonly handles: TransformControls;
	readonly #proxy = new THREE.Object3D();
	readonly #content = new THREE.Group();
	readonly #overlay = new THREE.Group();
	#grid: THREE.LineSegments | null = null;
	#gridCell = 1;
	#geometries = new Map<string, Known>();
	#matrices = new Map<string, THREE.InstancedBufferAttribute>();
	#drawn: Drawn[] = [];
	#materials = new Map<string, THREE.Material>();
	#frame = 0;
	#shading: Shading = 'shaded';
	#nearWallsHidden = false;
	#dark = false;
	/** How many pictures were drawn. */
	pictures = 0;
	onGrid: (cell: number) => void = () => {};
	onCamera: () => void = () => {};
	/** Called whenever what stands over the picture must be placed anew. */
	onMove: () => void = () => {};
	onHandles: (values: HandleValues, done: boolean) => void = () => {};

	constructor(canvas: HTMLCanvasElement) {
		this.canvas = canvas;
		this.renderer = new THREE.WebGLRenderer({
			canvas,
			// Smoothing edges triples the cost where a processor draws in place of a graphics card.
			antialias: !drawsInSoftware(),
			alpha: true,
			preserveDrawingBuffer: false
		});
		this.renderer.outputColorSpace = THREE.SRGBColorSpace;
		this.renderer.toneMapping = THREE.NoToneMapping;
		this.scene.add(this.#content, this.#overlay);
		const sky = new THREE.HemisphereLight(0xffffff, 0xb3a78f, 2.1);
		const sun = new THREE.DirectionalLight(0xfff3dd, 2.2);
		sun.position.set(4, 9, 6);
		this.scene.add(sky, sun);
		this.#perspective.position.set(8, 5, 9);
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.enableDamping = false;
		this.controls.screenSpacePanning = true;
		this.controls.addEventListener('change', () => {
			this.#fitGrid();
			this.redraw();
		});
		this.controls.addEventListener('end', () => this.onCamera());
		this.handles = new TransformControls(this.camera, canvas);
		this.handles.setSize(0.85);
		this.handles.setColors('#d2482f', '#1f7a70', '#b27a12', '#8c2f5d');
		this.scene.add(this.#proxy, this.handles.getHelper());
		this.handles.addEventListener('change', () => this.redraw());
		this.handles.addEventListener('dragging-changed', ({ value }) => {
			this.controls.enabled = !value;
			if (!value) this.#tellHandles(true);
		});
		this.handles.addEventListener('objectChange', () => this.#tellHandles(false));
	}

	#tellHandles(done: boolean): void {
		const { position: p, rotation: r, scale: s } = this.#proxy;
		const degrees = (x: number) => Math.round(THREE.MathUtils.radToDeg(x) * 100) / 100;
		const round = (x: number) => Math.round(x * 1000) / 1000;
		this.onHandles(
			{
				move: [round(p.x), round(p.y), round(p.z)],
				rotate: [degrees(r.x), degrees(r.y), degrees(r.z)],
				scale: [round(s.x), round(s.y), round(s.z)]
			},
			done
		);
	}

	/** Puts the handles at values, in a mode; null takes them away. Angles are degrees about fixed axes x, y, z. */
	setHandles(values: HandleValues | null, pivot: readonly number[], mode: HandleMode): void {
		if (!values) this.handles.detach();
		else {
			if (!this.handles.dragging) {
				this.#proxy.position.set(
					values.move[0] + pivot[0],
					values.move[1] + pivot[1],
					values.move[2] + pivot[2]
				);
				const [x, y, z] = values.rotate.map(THREE.MathUtils.degToRad);
				this.#proxy.rotation.set(x, y, z, 'ZYX');
				this.#proxy.scale.set(...values.scale);
			}
			this.handles.setMode(mode);
			if (this.handles.object !== this.#proxy) this.handles.attach(this.#proxy);
		}
		this.redraw();
	}

	/** Draws at the next frame; many calls make one picture. */
	redraw(): void {
		this.#frame ||= requestAnimationFrame(() => {
			this.#frame = 0;
			this.renderer.render(this.scene, this.camera);
			this.pictures++;
			this.onMove();
		});
	}

	resize(width: number, height: number): void {
		if (!width || !height) return;
		this.renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
		this.renderer.setSize(width, height, false);
		this.#perspective.aspect = width / height;
		this.#perspective.updateProjectionMatrix();
		this.#shapeFlat();
		this.redraw();
	}

	#shapeFlat(): void {
		const { width, height } = this.renderer.getSize(new THREE.Vector2());
		const half = this.controls ? this.#perspective.position.distanceTo(this.controls.target) * 0.36 : 5;
		this.#flat.top = half;
		this.#flat.bottom = -half;
		this.#flat.left = (-half * width) / height;
		this.#flat.right = (half * width) / height;
		this.#flat.updateProjectionMatrix();
	}

	setColours(background: string | null, dark: boolean): void {
		this.#dark = dark;
		this.scene.background = background ? new THREE.Color(background) : null;
		this.#dropGrid();
		this.#grid = null;
		this.#fitGrid();
		this.redraw();
	}

	#dropGrid(): void {
		this.#grid?.removeFromParent();
		this.#grid?.geometry.dispose();
		this.#grid = null;
	}

	/** A grid whose cells are 1 cm, 10 cm, 1 m, 10 m or 100 m, as suits the distance. */
	#fitGrid(): void {
		const distance =
			this.camera instanceof THREE.OrthographicCamera
				? (this.#flat.top / this.#flat.zoom) * 2.6
				: this.camera.position.distanceTo(this.controls.target);
		const cell = 10 ** Math.max(-2, Math.min(2, Math.round(Math.log10(Math.max(distance, 0.01) / 9))));
		if (this.#grid && cell === this.#gridCell) return;
		this.#gridCell = cell;
		this.#dropGrid();
		const [main, other] = this.#dark ? [0x567074, 0x35474a] : [0xb9ad94, 0xd9d1c0];
		this.#grid = makeGround(cell, new THREE.Color(main), new THREE.Color(other));
		this.scene.add(this.#grid);
		this.onGrid(cell);
	}

	set gridVisible(visible: boolean) {
		if (this.#grid) this.#grid.visible = visible;
		this.redraw();
	}

	setShading(shading: Shading): void {
		this.#shading = shading;
		this.#rebuild();
	}

	setNearWallsHidden(hidden: boolean): void {
		this.#nearWallsHidden = hidden;
		for (const material of this.#materials.values()) material.dispose();
		this.#materials.clear();
		this.#rebuild();
	}

	/** Takes a packet. `keeps` are nodes whose last picture stays because they failed. */
	take(packet: Packet, keeps: ReadonlySet<string>): void {
		for (const object of packet.objects) this.#addObject(object);
		for (const draw of packet.draws)
			if (draw.matricesKey && draw.matrices && !this.#matrices.has(draw.matricesKey))
				this.#matrices.set(draw.matricesKey, new THREE.InstancedBufferAttribute(draw.matrices, 16));
		const kept = this.#drawn.map(({ draw }) => draw).filter((draw) => keeps.has(draw.node));
		this.#draws = [...packet.draws, ...kept];
		this.#rebuild();
		const used = new Set(this.#draws.flatMap((draw) => [draw.object, draw.matricesKey ?? '']));
		for (const [key, { geometry, edges, wide }] of this.#geometries)
			if (!used.has(key)) {
				geometry.dispose();
				edges?.dispose();
				wide?.dispose();
				this.#geometries.delete(key);
			}
		for (const key of this.#matrices.keys()) if (!used.has(key)) this.#matrices.delete(key);
	}

	#draws: PacketDraw[] = [];

	#addObject(packet: PacketObject): void {
		const geometry = new THREE.BufferGeometry();
		geometry.setAttribute('position', new THREE.BufferAttribute(packet.positions, 3));
		if (packet.normals) geometry.setAttribute('normal', new THREE.BufferAttribute(packet.normals, 3));
		if (packet.index) geometry.setIndex(new THREE.BufferAttribute(packet.index, 1));
		if (packet.colours)
			geometry.setAttribute('color', new THREE.BufferAttribute(linearColours(packet.colours), 3, true));
		packet.groups?.forEach(({ start, count }, i) => geometry.addGroup(start, count, i));
		let edges: THREE.BufferGeometry | null = null;
		if (packet.edges) {
			edges = new THREE.BufferGeometry();
			edges.setAttribute('position', new THREE.BufferAttribute(packet.edges, 3));
		}
		this.#geometries.set(packet.key, { geometry, edges, packet });
	}

	/** Makes the three objects for the draws at hand; buffers are kept, so this is cheap. */
	#rebuild(): void {
		this.#content.clear();
		for (const { object } of this.#drawn) if (object instanceof THREE.InstancedMesh) object.dispose();
		this.#drawn = [];
		for (const draw of this.#draws) {
			const known = this.#geometries.get(draw.object);
			if (!known) continue;
			const { geometry, edges, packet } = known;
			const matrices = draw.matricesKey ? this.#matrices.get(draw.matricesKey) : null;
			if (draw.matricesKey && !matrices) continue;
			const add = (object: THREE.Object3D) => {
				object.frustumCulled = false;
				object.matrixAutoUpdate = false;
				object.userData = { node: draw.node, ghost: draw.ghost };
				this.#content.add(object);
				this.#drawn.push({ object, draw });
			};
			if (packet.kind === 'mesh') {
				const hot = !!packet.colours || !!draw.colours;
				const materials = packet.groups!.map(({ material }) =>
					hot ? this.#heatMaterial(!!packet.colours) : this.#material(material, draw.ghost)
				);
				if (this.#shading !== 'wireframe' || !edges) {
					if (matrices) {
						const mesh = new THREE.InstancedMesh(geometry, materials, 0);
						mesh.instanceMatrix = matrices;
						mesh.count = draw.count;
						if (draw.colours)
							mesh.instanceColor = new THREE.InstancedBufferAttribute(linearColours(draw.colours), 3, true);
						add(mesh);
					} else add(new THREE.Mesh(geometry, materials));
				}
				if (edges && this.#shading !== 'shaded')
					this.#addLines(edges, matrices ?? null, draw, add, this.#shading === 'both' ? 0.55 : 1);
			} else if (packet.kind === 'lines' && !matrices && packet.positions.length / 6 <= MOST_WIDE)
				this.#addWideLines(known, draw, add);
			else if (packet.kind === 'lines') this.#addLines(geometry, matrices ?? null, draw, add, 1);
			else {
				const material = this.#kept(
					`points ${draw.ghost} ${!!packet.colours}`,
					() =>
						new THREE.PointsMaterial({
							color: packet.colours ? 0xffffff : draw.ghost ? 0x9aa5a4 : 0x1f7a70,
							vertexColors: !!packet.colours,
							size: 5,
							sizeAttenuation: false,
							transparent: true,
							opacity: draw.ghost ? 0.35 : 1
						})
				);
				if (!matrices) add(new THREE.Points(geometry, material));
			}
		}
		this.redraw();
	}

	/** Curves two pixels wide. */
	#addWideLines(known: Known, draw: PacketDraw, add: (object: THREE.Object3D) => void): void {
		const { packet } = known;
		const hot = !!packet.colours;
		known.wide ??= wideGeometry(packet);
		const material = this.#kept(
			`wide lines ${draw.ghost} ${this.#dark} ${hot}`,
			() =>
				new LineMaterial({
					color: this.#lineColour(hot, draw.ghost),
					vertexColors: hot,
					linewidth: 2,
					transparent: true,
					opacity: draw.ghost ? 0.35 : 1
				})
		);
		add(new LineSegments2(known.wide, material));
	}

	#lineColour(hot: boolean, ghost: boolean): number {
		return hot ? 0xffffff : ghost ? 0x9aa5a4 : this.#dark ? 0xe9e4d8 : 0x1e2b2e;
	}

	#addLines(
		geometry: THREE.BufferGeometry,
		matrices: THREE.InstancedBufferAttribute | null,
		draw: PacketDraw,
		add: (object: THREE.Object3D) => void,
		opacity: number
	): void {
		const hot = geometry.hasAttribute('color');
		const material = this.#kept(`lines ${draw.ghost} ${this.#dark} ${opacity} ${!!matrices} ${hot}`, () => {
			const lines = new THREE.LineBasicMaterial({
				color: this.#lineColour(hot, draw.ghost),
				vertexColors: hot,
				transparent: true,
				opacity: draw.ghost ? 0.35 : opacity
			});
			// Lines are no meshes, so instancing is added to their shader by hand.
			if (matrices)
				lines.onBeforeCompile = (shader) => {
					shader.vertexShader = `attribute mat4 placed;\n${shader.vertexShader}`.replace(
						'#include <begin_vertex>',
						'vec3 transformed = (placed * vec4(position, 1.0)).xyz;'
					);
				};
			return lines;
		});
		if (!matrices) return add(new THREE.LineSegments(geometry, material));
		const instanced = new THREE.InstancedBufferGeometry();
		instanced.setAttribute('position', geometry.getAttribute('position'));
		instanced.setAttribute('placed', matrices);
		instanced.instanceCount = draw.count;
		add(new THREE.LineSegments(instanced, material));
	}

	#kept<M extends THREE.Material>(key: string, make: () => M): M {
		let material = this.#materials.get(key);
		if (!material) this.#materials.set(key, (material = make()));
		return material as M;
	}

	#material(given: PacketMaterial | null, ghost: boolean): THREE.Material {
		if (ghost)
			return this.#kept(
				'ghost',
				() =>
					new THREE.MeshLambertMaterial({
						color: 0x9aa5a4,
						transparent: true,
						opacity: 0.25,
						depthWrite: false,
						side: THREE.DoubleSide
					})
			);
		return this.#kept(JSON.stringify(given), () => {
			const [r, g, b, a] = given?.colour ?? [0.56, 0.52, 0.45, 1];
			return new THREE.MeshStandardMaterial({
				color: new THREE.Color().setRGB(r, g, b, THREE.LinearSRGBColorSpace),
				roughness: given?.roughness ?? 0.9,
				metalness: given?.metal ?? 0,
				transparent: a < 1,
				opacity: a,
				side: this.#nearWallsHidden ? THREE.BackSide : THREE.DoubleSide,
				polygonOffset: true,
				polygonOffsetFactor: 1,
				polygonOffsetUnits: 1
			});
		});
	}

	/** Matt, so that the light changes the scale's colours as little as may be. */
	#heatMaterial(vertices: boolean): THREE.Material {
		return this.#kept(
			`heat ${vertices}`,
			() =>
				new THREE.MeshLambertMaterial({
					vertexColors: vertices,
					// The lights together are brighter than white.
					color: 0xe6e6e6,
					side: this.#nearWallsHidden ? THREE.BackSide : THREE.DoubleSide,
					polygonOffset: true,
					polygonOffsetFactor: 1,
					polygonOffsetUnits: 1
				})
		);
	}

	/** Shows bounds as lines through shapes: boxes, spheres and cylinders about a place, the inner one full, the outer thin. */
	showZone(
		zone: {
			shape: string;
			centre: readonly number[];
			rotate: readonly number[];
			size: readonly number[];
			inner: number;
			outer: number;
		} | null
	): void {
		for (const child of [...this.#overlay.children]) if (child.userData.zone) this.#overlay.remove(child);
		if (zone) {
			const group = new THREE.Group();
			group.userData.zone = true;
			for (const [bound, opacity] of [
				[zone.inner, 0.9],
				[zone.outer, 0.4]
			]) {
				const lines = new THREE.LineSegments(
					zoneShape(zone.shape),
					new THREE.LineBasicMaterial({ color: CORAL, transparent: true, opacity, depthTest: false })
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
			this.#overlay.add(group);
		}
		this.redraw();
	}

	/** Where a ray from a point of the canvas meets a plane through a place; null where it runs beside it. */
	onPlane(
		x: number,
		y: number,
		through: readonly number[],
		normal: readonly number[] | 'view'
	): [number, number, number] | null {
		const rect = this.canvas.getBoundingClientRect();
		const ray = new THREE.Raycaster();
		ray.setFromCamera(
			new THREE.Vector2(((x - rect.left) / rect.width) * 2 - 1, 1 - ((y - rect.top) / rect.height) * 2),
			this.camera
		);
		const direction =
			normal === 'view'
				? this.camera.getWorldDirection(new THREE.Vector3())
				: new THREE.Vector3(...(normal as [number, number, number]));
		const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(
			direction,
			new THREE.Vector3(...(through as [number, number, number]))
		);
		const hit = ray.ray.intersectPlane(plane, new THREE.Vector3());
		return hit ? hit.toArray() : null;
	}

	/** Arrows that show a source's up and forward, at a place. */
	showAxes(axes: { up: readonly number[]; forward: readonly number[]; size: number } | null): void {
		for (const child of [...this.#overlay.children]) if (child.userData.axes) this.#overlay.remove(child);
		if (axes) {
			for (const [vector, colour] of [
				[axes.up, 0x1f7a70],
				[axes.forward, CORAL]
			] as const) {
				const arrow = new THREE.ArrowHelper(
					new THREE.Vector3(...(vector as [number, number, number])),
					new THREE.Vector3(),
					axes.size,
					colour,
					axes.size * 0.22,
					axes.size * 0.12
				);
				for (const part of [arrow.line, arrow.cone]) {
					(part.material as THREE.Material).depthTest = false;
					part.renderOrder = 10;
				}
				arrow.userData.axes = true;
				this.#overlay.add(arrow);
			}
		}
		this.redraw();
	}

	/** A banded staff of 2 m beside what was imported. */
	showStaff(beside: Bounds | null): void {
		for (const child of [...this.#overlay.children]) if (child.userData.staff) this.#overlay.remove(child);
		if (beside) {
			const staff = new THREE.Group();
			for (let i = 0; i < 10; i++) {
				const band = new THREE.Mesh(
					new THREE.CylinderGeometry(0.03, 0.03, 0.2, 12),
					new THREE.MeshStandardMaterial({ color: i % 2 ? 0xfffdf8 : 0xd2482f, roughness: 0.8 })
				);
				band.position.y = 0.1 + 0.2 * i;
				staff.add(band);
			}
			staff.position.set(beside.low[0] - 0.3, beside.low[1], beside.high[2]);
			staff.userData.staff = true;
			this.#overlay.add(staff);
		}
		this.redraw();
	}

	/** Shows the two ends of a measurement. */
	showMeasure(points: readonly THREE.Vector3[]): void {
		for (const child of [...this.#overlay.children]) if (child.userData.measure) this.#overlay.remove(child);
		if (points.length) {
			const group = new THREE.Group();
			group.userData.measure = true;
			const size = this.camera.position.distanceTo(this.controls.target) * 0.008;
			const material = new THREE.MeshBasicMaterial({ color: CORAL, depthTest: false });
			for (const point of points) {
				const dot = new THREE.Mesh(new THREE.SphereGeometry(size, 12, 8), material);
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
			this.#overlay.add(group);
		}
		this.redraw();
	}

	/** The place on the nearest surface under a point of the canvas, and the node it comes from. */
	pick(x: number, y: number): { point: THREE.Vector3; node: string } | null {
		const rect = this.canvas.getBoundingClientRect();
		const ray = new THREE.Raycaster();
		ray.params.Line2 = { threshold: 6 };
		ray.params.Line.threshold = ray.params.Points.threshold =
			this.camera.position.distanceTo(this.controls.target) * 0.01;
		ray.setFromCamera(
			new THREE.Vector2(((x - rect.left) / rect.width) * 2 - 1, 1 - ((y - rect.top) / rect.height) * 2),
			this.camera
		);
		const objects = this.#content.children.filter(
			(child) =>
				!child.userData.ghost &&
				!(child instanceof THREE.LineSegments && child.geometry instanceof THREE.InstancedBufferGeometry)
		);
		const [hit] = ray.intersectObjects(objects, false);
		return hit ? { point: hit.point, node: hit.object.userData.node as string } : null;
	}

	/** Where a place in space stands on the canvas, in pixels. */
	project(point: THREE.Vector3): { x: number; y: number } {
		const p = point.clone().project(this.camera);
		const { width, height } = this.renderer.getSize(new THREE.Vector2());
		return { x: ((p.x + 1) / 2) * width, y: ((1 - p.y) / 2) * height };
	}

	/** Moves the camera so that the box fills the view, looking as before. */
	fit(bounds: Bounds | null): void {
		const box = bounds
			? new THREE.Box3(new THREE.Vector3(...bounds.low), new THREE.Vector3(...bounds.high))
			: new THREE.Box3(new THREE.Vector3(-2, 0, -2), new THREE.Vector3(2, 2, 2));
		const centre = box.getCenter(new THREE.Vector3());
		const radius = Math.max(0.01, box.getSize(new THREE.Vector3()).length() / 2);
		const way = this.camera.position.clone().sub(this.controls.target).normalize();
		const distance =
			(radius / Math.sin(THREE.MathUtils.degToRad(20))) * Math.max(1, 1 / this.#perspective.aspect);
		this.controls.target.copy(centre);
		this.camera.position.copy(centre).addScaledVector(way, distance);
		if (this.camera === this.#flat) {
			this.#perspective.position.copy(this.camera.position);
			this.#flat.zoom = 1;
		}
		this.#perspective.near = distance / 500;
		this.#perspective.far = distance * 60;
		this.#perspective.updateProjectionMatrix();
		this.#shapeFlat();
		this.controls.update();
		this.#fitGrid();
		this.redraw();
		this.onCamera();
	}

	look(direction: Direction): void {
		const { target } = this.controls;
		const distance = Math.max(0.1, this.#perspective.position.distanceTo(target));
		const next = direction === 'perspective' ? this.#perspective : this.#flat;
		const ways = {
			top: [0, 1, 0.0001],
			front: [0, 0, 1],
			east: [1, 0, 0],
			perspective: [0.62, 0.42, 0.66]
		} as const;
		if (direction === 'perspective' && this.camera === this.#perspective) return;
		next.position.copy(target).addScaledVector(new THREE.Vector3(...ways[direction]).normalize(), distance);
		this.#perspective.position.copy(next.position);
		this.camera = next;
		this.#flat.zoom = 1;
		this.#shapeFlat();
		this.controls.object = next;
		this.handles.camera = next;
		next.lookAt(target);
		this.controls.update();
		this.redraw();
		this.onCamera();
	}

	/** Turns, moves or nears the camera from the keyboard. */
	nudge(kind: 'orbit' | 'pan' | 'zoom', x: number, y: number): void {
		const { target } = this.controls;
		const offset = this.camera.position.clone().sub(target);
		if (kind === 'zoom') {
			if (this.camera === this.#flat) {
				this.#flat.zoom *= y > 0 ? 1.15 : 1 / 1.15;
				this.#flat.updateProjectionMatrix();
			} else offset.multiplyScalar(y > 0 ? 1 / 1.15 : 1.15);
		} else if (kind === 'orbit') {
			const s = new THREE.Spherical().setFromVector3(offset);
			s.theta -= x * 0.1;
			s.phi = Math.max(0.02, Math.min(Math.PI - 0.02, s.phi - y * 0.1));
			offset.setFromSpherical(s);
		} else {
			const step = offset.length() * 0.05;
			const right = new THREE.Vector3().setFromMatrixColumn(this.camera.matrix, 0).multiplyScalar(x * step);
			const up = new THREE.Vector3().setFromMatrixColumn(this.camera.matrix, 1).multiplyScalar(y * step);
			target.add(right).add(up);
		}
		this.camera.position.copy(target).add(offset);
		this.controls.update();
		this.redraw();
		this.onCamera();
	}

	get cameraState(): { position: [number, number, number]; target: [number, number, number] } {
		return { position: this.camera.position.toArray(), target: this.controls.target.toArray() };
	}

	set cameraState(state: { position: [number, number, number]; target: [number, number, number] }) {
		this.camera.position.set(...state.position);
		this.controls.target.set(...state.target);
		this.controls.update();
		this.#fitGrid();
		this.redraw();
	}

	/** A picture of the view without grid and handles. */
	async picture(width: number, height: number, transparent: boolean, type = 'image/png'): Promise<Blob> {
		const size = this.renderer.getSize(new THREE.Vector2());
		const ratio = this.renderer.getPixelRatio();
		const { background } = this.scene;
		const helper = this.handles.getHelper();
		const visible = [this.#grid?.visible ?? false, helper.visible, this.#overlay.visible];
		if (transparent) this.scene.background = null;
		if (this.#grid) this.#grid.visible = false;
		helper.visible = this.#overlay.visible = false;
		this.renderer.setPixelRatio(1);
		this.renderer.setSize(width, height, false);
		const aspect = this.#perspective.aspect;
		this.#perspective.aspect = width / height;
		this.#perspective.updateProjectionMatrix();
		this.#shapeFlat();
		this.renderer.setClearColor(0x000000, 0);
		this.renderer.render(this.scene, this.camera);
		const blob = await new Promise<Blob | null>((done) => this.canvas.toBlob(done, type, 0.85));
		this.scene.background = background;
		if (this.#grid) this.#grid.visible = visible[0];
		helper.visible = visible[1];
		this.#overlay.visible = visible[2];
		this.#perspective.aspect = aspect;
		this.#perspective.updateProjectionMatrix();
		this.renderer.setPixelRatio(ratio);
		this.renderer.setSize(size.x, size.y, false);
		this.#shapeFlat();
		this.redraw();
		if (!blob) throw new Error('The browser could not make the picture. Try a smaller size.');
		return blob;
	}

	dispose(): void {
		cancelAnimationFrame(this.#frame);
		this.controls.dispose();
		this.handles.dispose();
		for (const { geometry, edges, wide } of this.#geometries.values()) {
			geometry.dispose();
			edges?.dispose();
			wide?.dispose();
		}
		for (const material of this.#materials.values()) material.dispose();
		this.renderer.dispose();
	}
}
