/** Refined pictures to keep: cards of the Library, and what the artist saves. Drawn in tiles, beside the View and unseen. */
import * as THREE from 'three';
import type { Camera, Painter } from './painter';
import { Plates } from './plates';
import { Screen } from './screen';
import type { Job, Matters } from './turns';

/** Larger pictures are drawn in tiles of this side, so that memory stays small. */
const TILE = 1024;

export class Still {
	readonly #renderer: THREE.WebGLRenderer;
	readonly #painter: Painter;
	readonly #camera: Camera;
	readonly #plates = new Plates(1, 1);
	readonly #bytes = new THREE.WebGLRenderTarget(1, 1, { depthBuffer: false });
	readonly #screen: Screen;

	constructor(renderer: THREE.WebGLRenderer, painter: Painter, camera: Camera) {
		this.#renderer = renderer;
		this.#painter = painter;
		this.#camera = camera;
		this.#screen = new Screen(renderer, true);
	}

	/**
	 * @param behind colours from top to bottom; none for a transparent picture.
	 * @param hidden what is left out.
	 */
	async take(
		width: number,
		height: number,
		behind: readonly string[],
		type: string,
		hidden: readonly THREE.Object3D[],
		samples: number,
		matters: Matters
	): Promise<Blob> {
		const canvas = document.createElement('canvas');
		canvas.width = width;
		canvas.height = height;
		const paper = canvas.getContext('2d')!;
		if (behind.length) {
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
				const job = this.#painter.gathering(
					this.#plates,
					this.#camera,
					{ width, height, x, y, wide, high },
					(_count, latest) => (mean = latest),
					samples
				);
				if (!(await this.#painter.turns.run(unseen(job, hidden), matters)) || !mean)
					throw new Error('The picture was not finished, because the View was closed.');
				paper.drawImage(await this.#read(mean, wide, high), x, y);
			}
		const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, type, 0.85));
		if (!blob) throw new Error('The browser could not make the picture. Try a smaller size.');
		return blob;
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
