/** The shadow map of the one light that casts shadows: as far as it looks, and where. */
import * as THREE from 'three';
import type { Bounds } from '$core/geometry/measure';
import type { Way } from './light';
import type { LightUniforms } from './surface';
import { depthMaterial } from './surface';

/** From the light's space, −1 to 1, to the map's, 0 to 1. */
const TO_MAP = new THREE.Matrix4().set(0.5, 0, 0, 0.5, 0, 0.5, 0, 0.5, 0, 0, 0.5, 0.5, 0, 0, 0, 1);

export class ShadowMap {
	readonly camera = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
	readonly material = depthMaterial();
	readonly target: THREE.WebGLRenderTarget;
	readonly #size: number;
	readonly #matrix = new THREE.Matrix4();
	#texel = 0.01;

	constructor(size: number) {
		this.#size = size;
		const depth = new THREE.DepthTexture(size, size, THREE.UnsignedIntType);
		depth.minFilter = depth.magFilter = THREE.NearestFilter;
		this.target = new THREE.WebGLRenderTarget(size, size, {
			depthTexture: depth,
			format: THREE.RedFormat,
			type: THREE.UnsignedByteType
		});
	}

	/** Looks along a way at all of a box, and at the ground where its shadow falls. */
	aim(way: Way, { low, high }: Bounds): void {
		const centre = new THREE.Vector3(...low).add(new THREE.Vector3(...high)).multiplyScalar(0.5);
		const radius = Math.max(1e-4, centre.distanceTo(new THREE.Vector3(...high))) * 1.02;
		const { camera } = this;
		camera.left = camera.bottom = -radius;
		camera.right = camera.top = radius;
		camera.near = 0;
		// Behind the box the ground goes on for as long as its shadow is.
		camera.far = 2 * radius + (2 * radius) / Math.max(0.08, way[1]);
		camera.position.copy(centre).addScaledVector(new THREE.Vector3(...way), radius);
		camera.up.set(0, Math.abs(way[1]) > 0.99 ? 0 : 1, Math.abs(way[1]) > 0.99 ? 1 : 0);
		camera.lookAt(centre);
		camera.updateProjectionMatrix();
		camera.updateMatrixWorld();
		this.#matrix.copy(TO_MAP).multiply(camera.projectionMatrix).multiply(camera.matrixWorldInverse);
		this.#texel = (2 * radius) / this.#size;
	}

	/** Surfaces are shaded by this map from now on. */
	use(light: LightUniforms): void {
		light.shadowMap.value = this.target.depthTexture;
		light.shadowMatrix.value.copy(this.#matrix);
		light.texel.value.set(this.#texel, 1 / this.#size, this.camera.far);
	}

	dispose(): void {
		this.target.depthTexture?.dispose();
		this.target.dispose();
		this.material.dispose();
	}
}
