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

/** A plate for one picture. @param smooth with smooth edges, where a graphics card makes them. */
export const pictureTarget = (width: number, height: number, smooth: boolean): THREE.WebGLRenderTarget =>
	new THREE.WebGLRenderTarget(width, height, {
		type: THREE.HalfFloatType,
		samples: smooth ? 4 : 0,
		minFilter: THREE.NearestFilter,
		magFilter: THREE.NearestFilter
	});

/** Where many pictures are gathered: the one at hand, and the mean of those before it, twice over. */
export class Plates {
	readonly one: THREE.WebGLRenderTarget;
	readonly means: readonly THREE.WebGLRenderTarget[];

	constructor(width: number, height: number) {
		this.one = pictureTarget(width, height, false);
		this.means = [0, 1].map(
			() =>
				new THREE.WebGLRenderTarget(width, height, {
					type: THREE.FloatType,
					depthBuffer: false,
					minFilter: THREE.NearestFilter,
					magFilter: THREE.NearestFilter
				})
		);
	}
	setSize(width: number, height: number): void {
		for (const one of [this.one, ...this.means]) one.setSize(width, height);
	}
	dispose(): void {
		for (const one of [this.one, ...this.means]) one.dispose();
	}
}
