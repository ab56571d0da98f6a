/** Views whose cameras move as one. Each View joins with its scene, and leaves when it is gone. */
import type { Direction, ViewScene } from '$lib/viewport/scene';

interface Stand {
	position: [number, number, number];
	target: [number, number, number];
	/** Of a camera that looks exactly straight. */
	zoom: number;
}

const standOf = (scene: ViewScene): Stand => ({ ...scene.cameraState, zoom: scene.camera.zoom });

export class CameraLink {
	readonly #scenes = new Set<ViewScene>();
	/** Where all of them stand, and its digits. */
	#stand: Stand | null = null;
	#known = '';
	/** From where all of them look, once one was told to. */
	direction = $state<Direction | null>(null);

	/** Whether one is there already whose camera the next will follow. */
	get isLed(): boolean {
		return this.#scenes.size > 0;
	}

	join(scene: ViewScene): void {
		const [first] = this.#scenes;
		this.#scenes.add(scene);
		if (!first) return;
		this.#stand = standOf(first);
		this.#known = JSON.stringify(this.#stand);
		this.#put(scene);
	}
	leave(scene: ViewScene): void {
		this.#scenes.delete(scene);
	}

	/** A View's picture has moved; where its camera did, the others follow. */
	moved(scene: ViewScene): void {
		if (this.#scenes.size < 2) return;
		const stand = standOf(scene);
		const digits = JSON.stringify(stand);
		if (digits === this.#known) return;
		this.#stand = stand;
		this.#known = digits;
		for (const other of this.#scenes) if (other !== scene) this.#put(other);
	}

	#put(scene: ViewScene): void {
		const { zoom, ...state } = this.#stand!;
		scene.camera.zoom = zoom;
		scene.camera.updateProjectionMatrix();
		scene.cameraState = state;
	}
}
