/** The three scene of the View: draws packets, on change only. Knows no Svelte. */
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js';
import type { Bounds } from '$core/geometry/measure';
import type { Packet, Marks } from '$core/session/messages';
import type { Direction } from './cameras';
import type { CameraSeen } from '$core/engine/camera-seen';
import { Cameras } from './cameras';
import type { Shading } from './content';
import { Content } from './content';
import { axisColours } from './axis-colours';
import { GroundGrid, ShadowCatcher } from './ground';
import type { Light } from './light';
import { USUAL_LIGHT } from './light';
import { DISC, Materials } from './materials';
import type { ZoneShown } from './overlays';
import { Overlays } from './overlays';
import type { Camera } from './painter';
import { Painter } from './painter';
import { drawsInSoftware } from './software';
import type { StillWanted } from './still';
import { Still } from './still';
import { LightUniforms } from './surface';

export type { Direction } from './cameras';
export type { Shading } from './content';

export type HandleMode = 'translate' | 'rotate' | 'scale';

export interface HandleValues {
	move: [number, number, number];
	rotate: [number, number, number];
	scale: [number, number, number];
}

/** A picture to keep. */
export interface PictureWanted extends Omit<StillWanted, 'behind' | 'hidden'> {
	/** All that is shown fills it; else what the View sees now. */
	fitted?: boolean;
}

/** A handle under the pointer. */
const ACTIVE_HANDLE = 0x8c2f5d;

export class ViewScene {
	readonly canvas: HTMLCanvasElement;
	readonly renderer: THREE.WebGLRenderer;
	readonly scene = new THREE.Scene();
	readonly controls: OrbitControls;
	readonly handles: TransformControls;
	readonly painter: Painter;
	readonly #cameras = new Cameras();
	readonly #light = new LightUniforms();
	readonly #materials = new Materials(this.#light);
	readonly #content = new Content(this.#materials);
	readonly #overlay = new Overlays(this.#light);
	readonly #grid = new GroundGrid();
	readonly #ground = new THREE.Scene();
	readonly #catcher = new ShadowCatcher(this.#light);
	/** The handles stand in a scene of their own, over the finished picture. */
	readonly #over = new THREE.Scene();
	readonly #proxy = new THREE.Object3D();
	#gridCell = 0;
	/** What was fitted last, until the camera is moved by hand: in a pane of another shape it is fitted again. */
	#fitted: { bounds: Bounds | null; all: boolean } | null = null;
	/** What the overlays show, as texts. */
	readonly #told = new Map<string, string>();
	#size = { width: 1, height: 1 };
	/** What lies behind a saved picture: a colour or two, from top to bottom. */
	#behind: readonly string[] = [];
	onGrid: (cell: number) => void = () => {};
	onCamera: () => void = () => {};
	/** The camera is taken in hand. */
	onTaken: () => void = () => {};
	/** Called whenever what stands over the picture must be placed anew. */
	onMove: () => void = () => {};
	onHandles: (values: HandleValues, done: boolean) => void = () => {};
	/** Called when a plain picture stands on the screen. */
	onDrawn: () => void = () => {};
	/** Called with the share of copies that is drawn while something moves: one in so many. */
	onShare: (oneIn: number) => void = () => {};
	/** Called when the browser takes the graphics away, and when they are back. */
	onLost: (lost: boolean) => void = () => {};

	constructor(canvas: HTMLCanvasElement) {
		this.canvas = canvas;
		const software = drawsInSoftware();
		this.renderer = new THREE.WebGLRenderer({ canvas, antialias: false, alpha: true, stencil: false });
		this.renderer.outputColorSpace = THREE.SRGBColorSpace;
		this.renderer.toneMapping = THREE.NoToneMapping;
		// To ask for errors waits for each shader to be compiled.
		this.renderer.debug.checkShaderErrors = import.meta.env.DEV;
		this.#ground.add(this.#grid);
		this.scene.add(this.#catcher, this.#content, this.#overlay);
		this.painter = new Painter(
			this.renderer,
			{
				scene: this.scene,
				content: this.#content,
				ground: this.#ground,
				catcher: this.#catcher,
				overlay: this.#overlay,
				handles: this.#over,
				camera: () => this.camera
			},
			this.#light,
			software
		);
		this.painter.onPicture = () => this.onMove();
		this.painter.onDrawn = () => this.onDrawn();
		this.painter.onShare = (oneIn) => this.onShare(oneIn);
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.target = this.#cameras.target;
		this.controls.enableDamping = false;
		this.controls.screenSpacePanning = true;
		this.controls.addEventListener('change', () => {
			this.#fitGrid();
			this.#cameraMoved();
		});
		this.controls.addEventListener('start', () => {
			this.#fitted = null;
			this.onTaken();
		});
		this.controls.addEventListener('end', () => this.onCamera());
		this.handles = new TransformControls(this.camera, canvas);
		this.handles.setSize(0.85);
		this.#over.add(this.#proxy, this.handles.getHelper());
		this.handles.addEventListener('change', () => this.painter.presentSoon());
		this.handles.addEventListener('dragging-changed', ({ value }) => {
			this.controls.enabled = !value;
			if (!value) this.#tellHandles(true);
		});
		this.handles.addEventListener('objectChange', () => this.#tellHandles(false));
		canvas.addEventListener('webglcontextlost', this.#lost);
		canvas.addEventListener('webglcontextrestored', this.#restored);
	}

	readonly #lost = (event: Event): void => {
		// Without this the browser would never give them back.
		event.preventDefault();
		// What was being drawn is gone: whoever waits for it is told so.
		this.painter.turns.close();
		this.onLost(true);
	};
	readonly #restored = (): void => {
		this.onLost(false);
		this.painter.comeBack();
	};

	/** How many plain pictures were drawn. */
	get pictures(): number {
		return this.painter.pictures;
	}
	/** How many pictures the one on the screen is the mean of; 0 for a plain one. */
	get gathered(): number {
		return this.painter.gathered;
	}
	/** Whether it is as fine as it gets. */
	get refined(): boolean {
		return this.painter.refined;
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
		this.painter.presentSoon();
	}

	#cameraMoved(): void {
		this.#materials.reach.value = Math.max(1e-6, this.#cameras.distance);
		this.painter.moved();
	}

	/** Draws at the next frame; many calls make one picture. */
	redraw(): void {
		this.painter.redraw();
	}

	/** @param width of the canvas, in pixels of the page. */
	resize(width: number, height: number): void {
		if (!width || !height) return;
		const ratio = Math.min(devicePixelRatio, 2);
		this.#size = { width, height };
		this.#materials.discSize.value = DISC * ratio;
		this.#cameras.aspect = width / height;
		this.painter.resize(Math.round(width * ratio), Math.round(height * ratio));
		if (this.#fitted) this.fit(this.#fitted.bounds, this.#fitted.all);
	}

	set light(light: Light) {
		this.painter.light = light;
	}

	get seen(): CameraSeen {
		return this.#cameras.seen;
	}
	get camera(): THREE.PerspectiveCamera | THREE.OrthographicCamera {
		return this.#cameras.active;
	}

	/** @param behind what lies behind a saved picture: a colour, or two from top to bottom. */
	setColours(behind: readonly string[], dark: boolean): void {
		this.#behind = behind;
		const renewed = this.#materials.dark !== dark;
		this.#materials.dark = dark;
		this.#overlay.dark = dark;
		const { x, y, z } = axisColours(dark);
		this.handles.setColors(x, y, z, ACTIVE_HANDLE);
		if (renewed) this.#content.rebuild();
		this.#grid.setColours(...((dark ? [0x6d8a8e, 0x4a6064] : [0xa89a7c, 0xc9bea6]) as [number, number]));
		// On a dark ground a shadow needs more of it to be seen.
		this.#catcher.material.uniforms.strength.value = dark ? 0.95 : 0.8;
		this.#fitGrid();
		this.painter.moved();
	}

	/** A grid whose cells are 1 cm, 10 cm, 1 m, 10 m or 100 m, as suits the distance. */
	#fitGrid(): void {
		const reach = Math.max(this.#cameras.reach, 0.01);
		const cell = 10 ** Math.max(-2, Math.min(2, Math.round(Math.log10(reach / 14))));
		if (cell === this.#gridCell) return;
		this.#gridCell = cell;
		this.#grid.scale.setScalar(cell);
		this.#grid.updateMatrixWorld();
		this.onGrid(cell);
	}

	set gridVisible(visible: boolean) {
		this.#grid.visible = visible;
		this.painter.moved();
	}

	setShading(shading: Shading): void {
		this.#content.shading = shading;
		this.redraw();
	}

	setNearWallsHidden(hidden: boolean): void {
		if (hidden === this.#materials.nearWallsHidden) return;
		this.#materials.nearWallsHidden = hidden;
		this.#content.renew();
		this.redraw();
	}

	/** Takes a packet, and the box of all that it shows; see `Content.take`. */
	take(packet: Packet, keeps: ReadonlySet<string>, bounds: Bounds | null): boolean {
		const keptSome = this.#content.take(packet, keeps);
		this.painter.contentIs(bounds);
		return keptSome;
	}

	/** The node whose parts are told apart from the others. */
	set selected(node: string | null) {
		if (this.#content.select(node)) this.redraw();
	}

	showZones(zones: readonly ZoneShown[]): void {
		if (this.#isNews('zones', zones)) this.#overlay.showZones(zones);
	}

	showAxes(axes: Parameters<Overlays['showAxes']>[0]): void {
		if (this.#isNews('axes', axes)) this.#overlay.showAxes(axes);
	}

	showStaff(beside: Bounds | null): void {
		if (this.#isNews('staff', beside)) this.#overlay.showStaff(beside);
	}

	/** Whether something is shown otherwise than before. If so the picture is drawn anew; if not what was gathered stays. */
	#isNews(what: string, value: unknown): boolean {
		const text = JSON.stringify(value);
		if (this.#told.get(what) === text) return false;
		this.#told.set(what, text);
		this.redraw();
		return true;
	}

	showMeasure(points: readonly THREE.Vector3[]): void {
		this.#overlay.showMeasure(points, this.#cameras.distance * 0.008);
		this.redraw();
	}

	/** Shows the order, directions and groups of elements. */
	showMarks(marks: readonly Marks[]): void {
		this.#overlay.showElementMarks(marks, this.#cameras.distance * 0.004);
		this.redraw();
	}

	/** Marks a place through whatever stands before it. */
	showMarked(at: readonly number[] | null): void {
		if (!this.#isNews('marked', at)) return;
		this.#overlay.showMarked(at, this.#cameras.distance * 0.006);
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

	/** The place on the nearest surface under a point of the canvas, the node it comes from, and where its copy stands. */
	pick(x: number, y: number): { point: THREE.Vector3; node: string; copy: number[] | null } | null {
		const rect = this.canvas.getBoundingClientRect();
		const ray = new THREE.Raycaster();
		ray.params.Line2 = { threshold: 6 };
		ray.params.Line.threshold = ray.params.Points.threshold = this.#cameras.distance * 0.01;
		ray.setFromCamera(
			new THREE.Vector2(((x - rect.left) / rect.width) * 2 - 1, 1 - ((y - rect.top) / rect.height) * 2),
			this.camera
		);
		const [hit] = ray.intersectObjects(this.#content.pickable, false);
		if (!hit) return null;
		const { object, instanceId, point } = hit;
		let copy: number[] | null = null;
		if (object instanceof THREE.InstancedMesh && instanceId !== undefined) {
			const place = new THREE.Matrix4();
			object.getMatrixAt(instanceId, place);
			copy = new THREE.Vector3().setFromMatrixPosition(place).toArray();
		}
		return { point, node: object.userData.node as string, copy };
	}

	/** Where a place in space stands on the canvas, in pixels. */
	project(point: THREE.Vector3): { x: number; y: number } {
		const p = point.clone().project(this.camera);
		const { width, height } = this.#size;
		return { x: ((p.x + 1) / 2) * width, y: ((1 - p.y) / 2) * height };
	}

	/** What takes places in space to the picture, and how large that is in pixels. */
	get viewMatrix(): { matrix: readonly number[]; width: number; height: number } {
		this.camera.updateMatrixWorld();
		const { width, height } = this.#size;
		const matrix = new THREE.Matrix4().multiplyMatrices(
			this.camera.projectionMatrix,
			this.camera.matrixWorldInverse
		).elements;
		return { matrix, width, height };
	}

	/** The same for three numbers; null for what lies behind the camera or outside the picture. */
	place(x: number, y: number, z: number): { x: number; y: number } | null {
		const point = new THREE.Vector3(x, y, z);
		const p = point.clone().project(this.camera);
		return Math.max(Math.abs(p.x), Math.abs(p.y), Math.abs(p.z)) > 1 ? null : this.project(point);
	}

	/** Moves the camera so that the box fills the view, looking as before; all that is shown, where it is the box of all. */
	fit(bounds: Bounds | null, all = false): void {
		this.#cameras.fit(bounds, all ? this.#content.outline() : null);
		this.#moved();
		this.#fitted = { bounds, all };
	}

	/** The same, from a height that suits the box's shape. */
	fitFresh(bounds: Bounds | null): void {
		this.#cameras.raise(bounds);
		this.fit(bounds, true);
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

	/** Looks exactly as a camera does. */
	see(seen: CameraSeen): void {
		this.#fitted = null;
		this.#cameras.see(seen);
		this.controls.object = this.camera;
		this.handles.camera = this.camera;
		this.#fitGrid();
		this.#cameraMoved();
		this.painter.presentSoon();
	}

	/** Turns, moves or nears the camera from the keyboard. */
	nudge(kind: 'orbit' | 'pan' | 'zoom', x: number, y: number): void {
		this.#cameras.nudge(kind, x, y);
		this.#moved();
	}

	#moved(): void {
		this.#fitted = null;
		this.controls.update();
		this.#fitGrid();
		this.#cameraMoved();
		this.onCamera();
	}

	get cameraState(): { position: [number, number, number]; target: [number, number, number] } {
		return { position: this.camera.position.toArray(), target: this.controls.target.toArray() };
	}

	set cameraState(state: { position: [number, number, number]; target: [number, number, number] }) {
		this.#fitted = null;
		this.camera.position.set(...state.position);
		this.controls.target.set(...state.target);
		this.controls.update();
		this.#fitGrid();
		this.#cameraMoved();
	}

	/** A refined picture of the view without grid and handles; rejects where it cannot be finished. */
	async picture({ width, height, fitted = false, ...rest }: PictureWanted): Promise<Blob> {
		const restore = this.#cameras.keep();
		this.#cameras.aspect = width / height;
		if (fitted) this.#cameras.fit(this.painter.bounds, this.#content.outline());
		const camera = this.camera.clone() as Camera;
		restore();
		const still = new Still(this.renderer, this.painter, camera);
		try {
			return await still.take({ width, height, behind: this.#behind, hidden: [this.#overlay], ...rest });
		} finally {
			still.dispose();
		}
	}

	/** Whether the browser has taken the graphics away. */
	get isLost(): boolean {
		return this.renderer.getContext().isContextLost();
	}

	/** Forgets all that it showed and whom it told, so that it can serve another generator. */
	reset(): void {
		this.onGrid =
			this.onCamera =
			this.onTaken =
			this.onMove =
			this.onDrawn =
			this.onHandles =
			this.onShare =
			this.onLost =
				() => {};
		this.setHandles(null, [0, 0, 0], 'translate');
		this.showZones([]);
		this.showAxes(null);
		this.showStaff(null);
		this.showMeasure([]);
		this.showMarked(null);
		this.#content.select(null);
		this.setShading('shaded');
		this.setNearWallsHidden(false);
		this.gridVisible = true;
		this.#cameras.reset();
		this.#fitted = null;
		this.controls.object = this.handles.camera = this.camera;
		this.controls.update();
		this.light = USUAL_LIGHT;
		this.take({ objects: [], draws: [], triangles: 0 }, new Set(), null);
		this.painter.sleep();
		this.painter.pictures = 0;
	}

	dispose(): void {
		this.canvas.removeEventListener('webglcontextlost', this.#lost);
		this.canvas.removeEventListener('webglcontextrestored', this.#restored);
		this.controls.dispose();
		this.handles.dispose();
		this.painter.dispose();
		this.#content.dispose();
		this.#materials.dispose();
		this.renderer.dispose();
	}
}
