/** The way of finished pictures: into a mean, and onto the screen. */
import type * as THREE from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';
import { meanMaterial, screenMaterial } from './passes';

export class Screen {
	readonly #renderer: THREE.WebGLRenderer;
	readonly #screen: FullScreenQuad;
	readonly #mean = new FullScreenQuad(meanMaterial());

	/** @param apart colours are not times their opacity, as files want them. */
	constructor(renderer: THREE.WebGLRenderer, apart = false) {
		this.#renderer = renderer;
		this.#screen = new FullScreenQuad(screenMaterial(apart));
	}

	/** The mean of `i` pictures and one more. */
	add(
		to: THREE.WebGLRenderTarget,
		before: THREE.WebGLRenderTarget,
		next: THREE.WebGLRenderTarget,
		i: number
	): void {
		const { uniforms } = this.#mean.material as THREE.ShaderMaterial;
		uniforms.before.value = before.texture;
		uniforms.next.value = next.texture;
		uniforms.share.value = 1 / (i + 1);
		this.#renderer.setRenderTarget(to);
		this.#mean.render(this.#renderer);
	}

	/**
	 * Brings a plate to the canvas, or to another one.
	 * @param under what lies under it, if anything.
	 * @param gathered whether it is the mean of many pictures.
	 */
	show(
		plate: THREE.WebGLRenderTarget,
		under: THREE.WebGLRenderTarget | null,
		gathered: boolean,
		to: THREE.WebGLRenderTarget | null = null
	): void {
		const { uniforms } = this.#screen.material as THREE.ShaderMaterial;
		uniforms.picture.value = plate.texture;
		uniforms.under.value = under?.texture ?? null;
		uniforms.gathered.value = gathered ? 1 : 0;
		this.#renderer.setRenderTarget(to);
		this.#renderer.clear();
		this.#screen.render(this.#renderer);
	}

	dispose(): void {
		this.#screen.dispose();
		this.#mean.dispose();
	}
}
