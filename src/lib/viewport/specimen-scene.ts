/** Pictures drawn away from the page: the same light and surfaces as in the View, without its handles and overlays. */
import * as THREE from 'three';
import type { CameraSeen } from '$core/engine/camera-seen';
import type { Bounds } from '$core/geometry/measure';
import type { Packet } from '$core/session/messages';
import { Cameras } from './cameras';
import { Content } from './content';
import { ShadowCatcher } from './ground';
import type { Light } from './light';
import { Materials } from './materials';
import type { Camera } from './painter';
import { Painter } from './painter';
import { drawsInSoftware } from './software';
import { Still } from './still';
import { LightUniforms } from './surface';

/** Where the camera stands and what it looks at; as the View says it. */
export interface Stand {
	position: readonly number[];
	target: readonly number[];
}

/** A picture of a frame. */
export interface FrameWanted {
	width: number;
	height: number;
	seen: CameraSeen;
	/** How many pictures it is the mean of. */
	samples: number;
	/** What lies behind, from top to bottom. */
	behind: readonly string[];
	transparent: boolean;
}

const NOBODY: ReadonlySet<string> = new Set();
/** Few are gathered, by a processor one: many small pictures shall be there soon. */
const SAMPLES = { card: 8, software: 1 };

const HEAVY = 60_000;

export class SpecimenScene {
	readonly #renderer: THREE.WebGLRenderer;
	readonly #light = new LightUniforms();
	readonly #materials = new Materials(this.#light);
	readonly #content = new Content(this.#materials);
	readonly #cameras = new Cameras();
	readonly #painter: Painter;
	#still: Still | null = null;
	readonly #samples: number;
	readonly #lightWanted: Light;

	constructor(light: Light) {
		const canvas = new OffscreenCanvas(8, 8);
		this.#renderer = new THREE.WebGLRenderer({
			canvas: canvas as unknown as HTMLCanvasElement,
			antialias: false,
			alpha: true,
			stencil: false
		});
		this.#renderer.outputColorSpace = THREE.SRGBColorSpace;
		this.#renderer.toneMapping = THREE.NoToneMapping;
		this.#renderer.debug.checkShaderErrors = false;
		const software = drawsInSoftware();
		this.#samples = software ? SAMPLES.software : SAMPLES.card;
		const scene = new THREE.Scene();
		const catcher = new ShadowCatcher(this.#light);
		scene.add(catcher, this.#content);
		this.#painter = new Painter(
			this.#renderer,
			{
				scene,
				content: this.#content,
				ground: new THREE.Scene(),
				catcher,
				overlay: new THREE.Group(),
				handles: new THREE.Scene(),
				camera: () => this.#cameras.active
			},
			this.#light,
			software
		);
		this.#painter.refines = false;
		this.#lightWanted = light;
	}

	/** A picture of all that a packet says, from the side on which a camera stands. */
	async picture(
		packet: Packet,
		bounds: Bounds | null,
		{ width, height, stand }: { width: number; height: number; stand: Stand | null }
	): Promise<Blob> {
		this.#content.take(packet, NOBODY);
		// A processor draws many triangles twice as fast where they cast no shadow; so small, it is hardly missed. Of very
		// many copies it draws a share, as the View does while something moves.
		const count = (all: readonly { triangles: number }[]) =>
			all.reduce((sum, part) => sum + part.triangles, 0);
		const triangles = count(this.#content.parts);
		const copied = count(this.#content.parts.filter(({ copies }) => copies));
		const isHeavy = this.#samples === SAMPLES.software && triangles > HEAVY;
		this.#painter.sampled = isHeavy
			? Math.max(1, Math.ceil(copied / Math.max(1, HEAVY - (triangles - copied))))
			: 1;
		this.#painter.light = { ...this.#lightWanted, shadow: this.#lightWanted.shadow && !isHeavy };
		this.#painter.contentIs(bounds);
		const cameras = this.#cameras;
		cameras.aspect = width / height;
		if (stand) {
			cameras.active.position.fromArray(stand.position as number[]);
			cameras.target.fromArray(stand.target as number[]);
			cameras.active.lookAt(cameras.target);
			cameras.active.updateMatrixWorld();
		}
		// From the same side as the View, and each as large as the picture allows.
		cameras.fit(bounds, this.#content.outline());
		this.#materials.reach.value = Math.max(1e-6, cameras.distance);
		// One for all of them: its plates and shaders take as long to make as a picture.
		this.#still ??= new Still(this.#renderer, this.#painter, cameras.active as Camera);
		this.#still.camera = cameras.active.clone() as Camera;
		return this.#still.take({
			width,
			height,
			transparent: true,
			type: 'image/webp',
			samples: this.#samples,
			atOnce: true,
			behind: [],
			hidden: []
		});
	}

	/** A picture of a frame, exactly as a camera sees it, on paper of its own. */
	async frame(packet: Packet, bounds: Bounds | null, wanted: FrameWanted): Promise<OffscreenCanvas> {
		const { width, height, seen, samples, behind, transparent } = wanted;
		this.#content.take(packet, NOBODY);
		this.#painter.sampled = 1;
		this.#painter.light = this.#lightWanted;
		this.#painter.contentIs(bounds);
		const cameras = this.#cameras;
		cameras.aspect = width / height;
		cameras.see(seen);
		this.#materials.reach.value = Math.max(1e-6, cameras.distance);
		this.#still ??= new Still(this.#renderer, this.#painter, cameras.active as Camera);
		this.#still.camera = cameras.active.clone() as Camera;
		return this.#still.draw({ width, height, behind, transparent, samples, atOnce: true, hidden: [] });
	}
}
