/** The three scene of the View: draws packets, on change only. Knows no Svelte. */
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js';
import type { Bounds } from '$core/geometry/measure';
import type { Packet } from '$lib/worker/messages';
import type { Direction } from './cameras';
import { Cameras } from './cameras';
import type { Shading } from './content';
import { Content } from './content';
import { makeGround } from './ground';
import { Materials } from './materials';
import type { ZoneShown } from './overlays';
import { Overlays } from './overlays';

export type { Direction } from './cameras';
export type { Shading } from './content';

export type HandleMode = 'translate' | 'rotate' | 'scale';

export interface HandleValues {
	move: [number, number, number];
	rotate: [number, number, number];
	scale: [number, number, number];
}

/** Whether the browser has no graphics card to draw with. */
function drawsInSoftware(): boolean {
	const gl = document.createElement('canvas').getContext('webgl2');
	const info = gl?.getExtension('WEBGL_debug_renderer_info');
	const name = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
	gl?.getExtension('WEBGL_lose_context')?.loseContext();
	return /software|swiftshader|llvmpipe|basic render/i.test(name);
}

export class ViewScene {
	readonly canvas: HTMLCanvasElement;
	readonly renderer: THREE.WebGLRenderer;
	readonly scene = new THREE.Scene();
	readonly #cameras = new Cameras();
	readonly controls: OrbitControls;
	readonly handles: TransformControls;
	readonly #proxy = new THREE.Object3D();
	readonly #materials = new Materials();
	readonly #content = new Content(this.#materials);
	readonly #overlay = new Overlays();
	#grid: THREE.LineSegments | null = null;
	#gridCell = 1;
	#frame = 0;
	#gridVisible = true;
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
		this.#cameras.perspective.position.set(8, 5, 9);
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.target = this.#cameras.target;
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
		this.#cameras.aspect = width / height;
		this.redraw();
	}

	get camera(): THREE.PerspectiveCamera | THREE.OrthographicCamera {
		return this.#cameras.active;
	}

	setColours(background: string | null, dark: boolean): void {
		this.#materials.dark = dark;
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
		const reach = Math.max(this.#cameras.reach, 0.01);
		const cell = 10 ** Math.max(-2, Math.min(2, Math.round(Math.log10(reach / 14))));
		if (this.#grid && cell === this.#gridCell) return;
		this.#gridCell = cell;
		this.#dropGrid();
		const [main, other] = this.#materials.dark ? [0x567074, 0x35474a] : [0xb9ad94, 0xd9d1c0];
		this.#grid = makeGround(cell, new THREE.Color(main), new THREE.Color(other));
		this.#grid.visible = this.#gridVisible;
		this.scene.add(this.#grid);
		this.onGrid(cell);
	}

	set gridVisible(visible: boolean) {
		this.#gridVisible = visible;
		if (this.#grid) this.#grid.visible = visible;
		this.redraw();
	}

	setShading(shading: Shading): void {
		this.#content.shading = shading;
		this.redraw();
	}

	setNearWallsHidden(hidden: boolean): void {
		this.#materials.nearWallsHidden = hidden;
		this.#content.rebuild();
		this.redraw();
	}

	/** Takes a packet; see `Content.take`. */
	take(packet: Packet, keeps: ReadonlySet<string>): boolean {
		const keptSome = this.#content.take(packet, keeps);
		this.redraw();
		return keptSome;
	}

	showZone(zone: ZoneShown | null): void {
		this.#overlay.showZone(zone);
		this.redraw();
	}

	showAxes(axes: Parameters<Overlays['showAxes']>[0]): void {
		this.#overlay.showAxes(axes);
		this.redraw();
	}

	showStaff(beside: Bounds | null): void {
		this.#overlay.showStaff(beside);
		this.redraw();
	}

	showMeasure(points: readonly THREE.Vector3[]): void {
		this.#overlay.showMeasure(points, this.#cameras.distance * 0.008);
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

	/** The place on the nearest surface under a point of the canvas, and the node it comes from. */
	pick(x: number, y: number): { point: THREE.Vector3; node: string } | null {
		const rect = this.canvas.getBoundingClientRect();
		const ray = new THREE.Raycaster();
		ray.params.Line2 = { threshold: 6 };
		ray.params.Line.threshold = ray.params.Points.threshold = this.#cameras.distance * 0.01;
		ray.setFromCamera(
			new THREE.Vector2(((x - rect.left) / rect.width) * 2 - 1, 1 - ((y - rect.top) / rect.height) * 2),
			this.camera
		);
		const [hit] = ray.intersectObjects(this.#content.pickable, false);
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
		this.#cameras.fit(bounds);
		this.#moved();
	}

	/** Whether a box lies wholly within the picture. */
	isInSight(bounds: Bounds): boolean {
		return this.#cameras.sees(bounds);
	}

	look(direction: Direction): void {
		this.#cameras.look(direction);
		this.controls.object = this.camera;
		this.handles.camera = this.camera;
		this.#moved();
	}

	/** Turns, moves or nears the camera from the keyboard. */
	nudge(kind: 'orbit' | 'pan' | 'zoom', x: number, y: number): void {
		this.#cameras.nudge(kind, x, y);
		this.#moved();
	}

	#moved(): void {
		this.controls.update();
		this.#fitGrid();
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

	/**
	 * A picture of the view without grid and handles.
	 * @param frame what should fill it; as the camera sees it now where nothing is given.
	 */
	async picture(
		width: number,
		height: number,
		transparent: boolean,
		type = 'image/png',
		frame: Bounds | null = null
	): Promise<Blob> {
		const size = this.renderer.getSize(new THREE.Vector2());
		const ratio = this.renderer.getPixelRatio();
		const { background } = this.scene;
		const restoreCameras = this.#cameras.keep();
		const hidden = [this.#grid, this.handles.getHelper(), this.#overlay].filter((one) => one?.visible);
		if (transparent) this.scene.background = null;
		for (const one of hidden) one!.visible = false;
		this.renderer.setPixelRatio(1);
		this.renderer.setSize(width, height, false);
		this.#cameras.aspect = width / height;
		if (frame) this.#cameras.fit(frame);
		this.renderer.setClearColor(0x000000, 0);
		this.renderer.render(this.scene, this.camera);
		// The browser copies what is drawn at once; so the view is put back before the page is shown, without a flash.
		const taken = new Promise<Blob | null>((done) => this.canvas.toBlob(done, type, 0.85));
		this.scene.background = background;
		for (const one of hidden) one!.visible = true;
		restoreCameras();
		this.renderer.setPixelRatio(ratio);
		this.renderer.setSize(size.x, size.y, false);
		this.renderer.render(this.scene, this.camera);
		const blob = await taken;
		if (!blob) throw new Error('The browser could not make the picture. Try a smaller size.');
		return blob;
	}

	dispose(): void {
		cancelAnimationFrame(this.#frame);
		this.controls.dispose();
		this.handles.dispose();
		this.#content.dispose();
		this.#materials.dispose();
		this.renderer.dispose();
	}
}
