/** The ground: a grid that fades, and the shadow that falls on it. Neither hides anything. */
import * as THREE from 'three';
import type { Bounds } from '$core/geometry/measure';
import type { Way } from './light';
import type { LightUniforms } from './surface';
import { SHADOW } from './surface';

/** Cells from the middle of the ground's grid to its rim. */
const GROUND_REACH = 24;

/** Drawn before all else, whatever is nearer. */
const BELOW_ALL = {
	depthTest: false,
	depthWrite: false,
	// Blended, and yet among what is drawn first.
	transparent: false,
	blending: THREE.CustomBlending,
	blendSrc: THREE.SrcAlphaFactor,
	blendDst: THREE.OneMinusSrcAlphaFactor,
	blendSrcAlpha: THREE.OneFactor,
	blendDstAlpha: THREE.OneMinusSrcAlphaFactor
} as const;

/**
 * The grid, in a picture of its own that is laid under the other one: so it lies below everything, and never shows through a
 * surface, not even one in its plane. Each line is cut at the cells, so that it fades along its way, and none is lost where it
 * passes behind the camera.
 */
export class GroundGrid extends THREE.LineSegments<THREE.BufferGeometry, THREE.ShaderMaterial> {
	constructor() {
		const positions: number[] = [];
		const main: number[] = [];
		for (let i = -GROUND_REACH; i <= GROUND_REACH; i++)
			for (let j = -GROUND_REACH; j < GROUND_REACH; j++) {
				positions.push(i, 0, j, i, 0, j + 1, j, 0, i, j + 1, 0, i);
				for (let k = 0; k < 4; k++) main.push(i === 0 ? 1 : 0);
			}
		const geometry = new THREE.BufferGeometry();
		geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
		geometry.setAttribute('onAxis', new THREE.Float32BufferAttribute(main, 1));
		super(
			geometry,
			new THREE.ShaderMaterial({
				depthTest: false,
				depthWrite: false,
				transparent: true,
				uniforms: {
					mainColour: { value: new THREE.Color() },
					otherColour: { value: new THREE.Color() },
					reach: { value: GROUND_REACH }
				},
				vertexShader: /* glsl */ `
					attribute float onAxis;
					uniform vec3 mainColour;
					uniform vec3 otherColour;
					uniform float reach;
					varying vec4 vColour;
					void main() {
						vec4 world = modelMatrix * vec4(position, 1.0);
						vec3 toEye = isOrthographic
							? vec3(viewMatrix[0][2], viewMatrix[1][2], viewMatrix[2][2])
							: normalize(cameraPosition - world.xyz);
						float far = 1.0 - smoothstep(0.35, 1.0, length(position.xz) / reach);
						float grazing = isOrthographic ? step(0.02, abs(toEye.y)) : smoothstep(0.02, 0.22, abs(toEye.y));
						vColour = vec4(onAxis > 0.5 ? mainColour : otherColour, 0.9 * far * grazing);
						gl_Position = projectionMatrix * viewMatrix * world;
					}
				`,
				fragmentShader: 'varying vec4 vColour; void main() { gl_FragColor = vColour; }'
			})
		);
		this.frustumCulled = false;
	}

	setColours(main: number, other: number): void {
		this.material.uniforms.mainColour.value.set(main);
		this.material.uniforms.otherColour.value.set(other);
	}
}

/** A plane that is not seen, but for the shadow on it. */
export class ShadowCatcher extends THREE.Mesh<THREE.PlaneGeometry, THREE.ShaderMaterial> {
	constructor(light: LightUniforms) {
		super(
			new THREE.PlaneGeometry(1, 1).rotateX(-Math.PI / 2),
			new THREE.ShaderMaterial({
				...BELOW_ALL,
				side: THREE.DoubleSide,
				uniforms: { ...light.all, strength: { value: 0.8 } },
				vertexShader: /* glsl */ `
					varying vec3 vWorld;
					varying vec2 vPlace;
					void main() {
						vec4 world = modelMatrix * vec4(position, 1.0);
						vWorld = world.xyz;
						vPlace = 2.0 * position.xz;
						gl_Position = projectionMatrix * viewMatrix * world;
					}
				`,
				fragmentShader: /* glsl */ `
					uniform vec3 way;
					uniform vec3 direct;
					uniform vec3 sky;
					uniform float open;
					uniform float strength;
					varying vec3 vWorld;
					varying vec2 vPlace;
					${SHADOW}
					void main() {
						vec3 up = vec3(0.0, 1.0, 0.0);
						vec3 light = direct * max(way.y, 0.0) * reached(vWorld, up, way) + sky;
						// A single picture may have more light than there is on the whole: only their mean counts.
						float missing = 1.0 - dot(light, vec3(0.3, 0.6, 0.1)) / open;
						float rim = 1.0 - smoothstep(0.8, 1.0, max(abs(vPlace.x), abs(vPlace.y)));
						gl_FragColor = vec4(0.0, 0.0, 0.0, strength * missing * rim);
					}
				`
			})
		);
		this.frustumCulled = false;
		this.renderOrder = -10;
	}

	/** Lies under a box, on the ground, or at its foot where that is lower: as far as its shadow falls. */
	lieUnder({ low, high }: Bounds, way: Way): void {
		const foot = Math.min(0, low[1]);
		const tall = high[1] - foot;
		const [x, z] = [0, 2].map((k) => {
			// A shadow longer than six times what casts it is pale, and costs more pixels than it is worth.
			const falls = -tall * Math.max(-6, Math.min(6, way[k] / Math.max(0.08, way[1])));
			const around = 0.7 * tall + 0.05 * (high[k] - low[k]);
			return [low[k] + Math.min(0, falls) - around, high[k] + Math.max(0, falls) + around];
		});
		this.scale.set(1.15 * (x[1] - x[0]), 1, 1.15 * (z[1] - z[0]));
		this.position.set((x[0] + x[1]) / 2, foot, (z[0] + z[1]) / 2);
		this.updateMatrixWorld();
	}
}
