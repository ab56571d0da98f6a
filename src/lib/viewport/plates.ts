/** Where pictures are drawn before they are shown. */
import * as THREE from 'three';

/** A part of a picture that is drawn: the whole picture's size, and where the part lies in it. */
export interface Frame {
	width: number;
	height: number;
	x: number;
	y: number;
	wide: number;
	high: number;
}

/** Where pictures are drawn before they are shown: one alone, and the mean of several, twice over. */
export class Plates {
	readonly one: THREE.WebGLRenderTarget;
	readonly means: readonly THREE.WebGLRenderTarget[];

	constructor(width: number, height: number, smooth: boolean) {
		const make = (type: THREE.TextureDataType, depthBuffer: boolean) =>
			new THREE.WebGLRenderTarget(width, height, {
				type,
				depthBuffer,
				samples: depthBuffer && smooth ? 4 : 0,
				minFilter: THREE.NearestFilter,
				magFilter: THREE.NearestFilter
			});
		this.one = make(THREE.HalfFloatType, true);
		this.means = [make(THREE.FloatType, false), make(THREE.FloatType, false)];
	}
	setSize(width: number, height: number): void {
		for (const one of [this.one, ...this.means]) one.setSize(width, height);
	}
	dispose(): void {
		for (const one of [this.one, ...this.means]) one.dispose();
	}
}
