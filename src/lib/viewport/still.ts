/** Refined pictures to keep: cards of the Library, and what the artist saves. Drawn in tiles, beside the View and unseen. */
import * as THREE from 'three';
import type { Camera, Painter } from './painter';
import { Plates } from './plates';
import { Screen } from './screen';
import type { Job, Matters } from './turns';

/** Larger pictures are drawn in tiles of this side, so that memory stays small. */
const TILE = 1024;

/** A picture that is drawn over and over because what is shown changes is given up after so many times. */
const MOST_TRIES = 3;

export interface StillWanted {
	width: number;
	height: number;
	/** Without a background. */
	transparent?: boolean;
	/** `image/png`, where nothing is said. */
	type?: string;
	/** The background's colours from top to bottom. */
	behind: readonly string[];
	/** What is left out. */
	hidden: readonly THREE.Object3D[];
	/** How many pictures it is the mean of: as many as the View gathers, where nothing is said. */
	samples?: number;
	/** Whether somebody waits for it, so that it comes before what is seen is refined. */
	matters?: Matters;
	/** Drawn without a pause, as where nothing else has to be drawn meanwhile. */
	atOnce?: boolean;
	stop?: AbortSignal;
	/** Hears how much of it is drawn, from 0 to 1. */
	progress?: (share: number) => void;
}

export class Still {
	readonly #renderer: THREE.WebGLRenderer;
	readonly #painter: Painter;
	/** From where it is taken. */
	camera: Camera;
	readonly #plates = new Plates(1, 1);
	readonly #bytes = new THREE.WebGLRenderTarget(1, 1, { depthBuffer: false });
	readonly #screen: Screen;

	constructor(renderer: THREE.WebGLRenderer, painter: Painter, camera: Camera) {
		this.#renderer = renderer;
		this.#painter = painter;
		this.camera = camera;
		this.#screen = new Screen(renderer, true);
	}

	/** Begins again where what is shown changes meanwhile: a picture of two states would be of neither. */
	async take(wanted: StillWanted): Promise<Blob> {
		for (let tries = 0; tries < MOST_TRIES; tries++) {
			const { changes } = this.#painter;
			const canvas = await this.draw(wanted);
			if (changes !== this.#painter.changes) continue;
			return canvas.convertToBlob({ type: wanted.type ?? 'image/png', quality: 0.85 }).catch(() => {
				throw new Error('The browser could not make the picture. Try a smaller size.');
			});
		}
		throw new Error('What is shown kept changing while the picture was drawn. Try again when it rests.');
	}

	/** The picture on paper of its own, as it is at once: where nothing else changes what is shown. */
	async draw({
		width,
		height,
		transparent = false,
		behind,
		hidden,
		samples = this.#painter.samples,
		matters = 'awaited',
		atOnce = false,
		stop,
		progress
	}: StillWanted): Promise<OffscreenCanvas> {
		const canvas = new OffscreenCanvas(width, height);
		const paper = canvas.getContext('2d')!;
		if (!transparent) {
			const fill = paper.createLinearGradient(0, 0, 0, height);
			behind.forEach((colour, i) => fill.addColorStop(i / Math.max(1, behind.length - 1), colour));
			paper.fillStyle = fill;
			paper.fillRect(0, 0, width, height);
		}
		for (let y = 0; y < height; y += TILE)
			for (let x = 0; x < width; x += TILE) {
				const wide = Math.min(TILE, width - x),
					high = Math.min(TILE, height - y);
				this.#plates.setSize(wide, high);
				this.#bytes.setSize(wide, high);
				let mean: THREE.WebGLRenderTarget | null = null;
				const drawn = y * width + x * high;
				const gathering = this.#painter.gathering(
					this.#plates,
					this.camera,
					{ width, height, x, y, wide, high },
					(count, latest) => {
						mean = latest;
						progress?.((drawn + (wide * high * count) / samples) / (width * height));
					},
					samples
				);
				const job = unseen(gathering, hidden);
				const drop = () => this.#painter.turns.drop(job);
				stop?.addEventListener('abort', drop);
				const finished =
					!stop?.aborted && (atOnce ? allOf(job) : await this.#painter.turns.run(job, matters));
				stop?.removeEventListener('abort', drop);
				if (!finished || !mean)
					throw new Error(
						stop?.aborted
							? 'The picture was stopped.'
							: 'The picture was not finished. Try again in a moment.'
					);
				paper.drawImage(await this.#read(mean, wide, high), x, y);
			}
		return canvas;
	}

	/** A plate as it goes to the screen, the right way up. */
	async #read(plate: THREE.WebGLRenderTarget, width: number, height: number): Promise<ImageBitmap> {
		this.#screen.show(plate, null, true, this.#bytes);
		const bytes = new Uint8ClampedArray(4 * width * height);
		await this.#renderer.readRenderTargetPixelsAsync(this.#bytes, 0, 0, width, height, bytes);
		return createImageBitmap(new ImageData(bytes, width, height), { imageOrientation: 'flipY' });
	}

	dispose(): void {
		this.#plates.dispose();
		this.#bytes.dispose();
		this.#screen.dispose();
	}
}

/** Does a job to its end. */
function allOf(job: Job): true {
	while (!job.next().done);
	return true;
}

/** A job during whose steps some things are hidden; between them they are as they were. */
function* unseen(job: Job, hidden: readonly THREE.Object3D[]): Job {
	for (;;) {
		const were = hidden.map((one) => one.visible);
		for (const one of hidden) one.visible = false;
		const step = job.next();
		hidden.forEach((one, i) => (one.visible = were[i]));
		if (step.done) return;
		yield step.value;
	}
}
