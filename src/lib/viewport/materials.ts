/** Materials of what is drawn, each made once. */
import * as THREE from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import type { PacketMaterial } from '$lib/worker/messages';

const GHOST = 0x9aa5a4;

/** Lines and points are no meshes, so instancing is added to their shaders by hand: `placed` is the copy’s matrix. */
function takesCopies(material: THREE.Material): void {
	material.onBeforeCompile = (shader) => {
		shader.vertexShader = `attribute mat4 placed;\n${shader.vertexShader}`.replace(
			'#include <begin_vertex>',
			'vec3 transformed = (placed * vec4(position, 1.0)).xyz;'
		);
	};
}

export class Materials {
	/** Whether they stand before a dark background. */
	dark = false;
	#nearWallsHidden = false;
	#made = new Map<string, THREE.Material>();

	#kept<M extends THREE.Material>(key: string, make: () => M): M {
		let material = this.#made.get(key);
		if (!material) this.#made.set(key, (material = make()));
		return material as M;
	}

	set nearWallsHidden(hidden: boolean) {
		this.#nearWallsHidden = hidden;
		this.dispose();
	}

	#surfaceLook() {
		return {
			side: this.#nearWallsHidden ? THREE.BackSide : THREE.DoubleSide,
			// Edges lie on the faces: these stand back a little.
			polygonOffset: true,
			polygonOffsetFactor: 1,
			polygonOffsetUnits: 1
		} as const;
	}

	surface(given: PacketMaterial | null, ghost: boolean): THREE.Material {
		if (ghost)
			return this.#kept(
				'ghost',
				() =>
					new THREE.MeshLambertMaterial({
						color: GHOST,
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
				...this.#surfaceLook()
			});
		});
	}

	/** Matt, so that the light changes the scale's colours as little as may be. */
	heat(vertices: boolean): THREE.Material {
		return this.#kept(
			`heat ${vertices}`,
			() =>
				new THREE.MeshLambertMaterial({
					vertexColors: vertices,
					// The lights together are brighter than white.
					color: 0xe6e6e6,
					...this.#surfaceLook()
				})
		);
	}

	#lineColour(hot: boolean, ghost: boolean): number {
		return hot ? 0xffffff : ghost ? GHOST : this.dark ? 0xe9e4d8 : 0x1e2b2e;
	}

	/** @param hot coloured by a heat map. */
	lines(hot: boolean, ghost: boolean, opacity: number, copies: boolean): THREE.Material {
		return this.#kept(`lines ${ghost} ${this.dark} ${opacity} ${copies} ${hot}`, () => {
			const lines = new THREE.LineBasicMaterial({
				color: this.#lineColour(hot, ghost),
				vertexColors: hot,
				transparent: true,
				opacity: ghost ? 0.35 : opacity
			});
			if (copies) takesCopies(lines);
			return lines;
		});
	}

	/** Two pixels wide. */
	wideLines(hot: boolean, ghost: boolean): LineMaterial {
		return this.#kept(
			`wide lines ${ghost} ${this.dark} ${hot}`,
			() =>
				new LineMaterial({
					color: this.#lineColour(hot, ghost),
					vertexColors: hot,
					linewidth: 2,
					transparent: true,
					opacity: ghost ? 0.35 : 1
				})
		);
	}

	points(hot: boolean, ghost: boolean, copies: boolean): THREE.Material {
		return this.#kept(`points ${ghost} ${hot} ${copies}`, () => {
			const points = new THREE.PointsMaterial({
				color: hot ? 0xffffff : ghost ? GHOST : 0x1f7a70,
				vertexColors: hot,
				size: 5,
				sizeAttenuation: false,
				transparent: true,
				opacity: ghost ? 0.35 : 1
			});
			if (copies) takesCopies(points);
			return points;
		});
	}

	dispose(): void {
		for (const material of this.#made.values()) material.dispose();
		this.#made.clear();
	}
}
