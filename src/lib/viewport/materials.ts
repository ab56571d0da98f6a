/** Materials of what is drawn, each made once. */
import * as THREE from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import type { PacketMaterial } from '$lib/worker/messages';
import type { LightUniforms } from './surface';
import { heatMaterial, surfaceMaterial } from './surface';

const GHOST = 0x8aa09e;
const CORAL = { paper: 0xc23e27, dusk: 0xf0765c };
/** Light added to surfaces that are selected. */
const GLOW = [0.2, 0.035, 0.012] as const;
/** Points are discs of so many pixels. */
const DISC = 4;

/** How a thing is told apart from the rest. */
export type Mark = 'plain' | 'ghost' | 'selected';

/** Where a vertex is: copies carry their places in `placed`, since lines and points are no meshes. */
const PLACED = /* glsl */ `
	#ifdef COPIES
		attribute mat4 placed;
	#endif
	vec4 placedWorld() {
		#ifdef COPIES
			return modelMatrix * placed * vec4(position, 1.0);
		#else
			return modelMatrix * vec4(position, 1.0);
		#endif
	}
`;

/** What is far away is paler: how far is far depends on how far the camera stands from what it looks at. */
const PALER = /* glsl */ `
	uniform float reach;
	float paler(vec4 world) {
		return isOrthographic ? 1.0 : 1.0 - 0.72 * smoothstep(1.0, 3.2, distance(cameraPosition, world.xyz) / reach);
	}
`;

export class Materials {
	/** Whether they stand before a dark background. */
	dark = false;
	readonly light: LightUniforms;
	/** How far the camera stands from what it looks at. */
	readonly reach = { value: 10 };
	/** Pixels of the picture for a pixel of the screen. */
	readonly ratio = { value: 1 };
	#nearWallsHidden = false;
	#made = new Map<string, THREE.Material>();

	constructor(light: LightUniforms) {
		this.light = light;
	}

	#kept<M extends THREE.Material>(key: string, make: () => M): M {
		let material = this.#made.get(key);
		if (!material) this.#made.set(key, (material = make()));
		return material as M;
	}

	get nearWallsHidden(): boolean {
		return this.#nearWallsHidden;
	}
	/** Materials are made anew, and their shaders with them. */
	set nearWallsHidden(hidden: boolean) {
		this.#nearWallsHidden = hidden;
		this.dispose();
	}

	get #side(): THREE.Side {
		return this.#nearWallsHidden ? THREE.BackSide : THREE.DoubleSide;
	}

	surface(given: PacketMaterial | null, mark: Mark): THREE.Material {
		if (mark === 'ghost')
			return this.#kept('ghost', () => {
				const [r, g, b] = new THREE.Color(GHOST).toArray();
				return surfaceMaterial(this.light, {
					colour: [r, g, b],
					opacity: 0.28,
					roughness: 1,
					metallic: 0,
					side: THREE.DoubleSide
				});
			});
		return this.#kept(`${mark} ${JSON.stringify(given)}`, () => {
			const [r, g, b, opacity] = given?.colour ?? [0.56, 0.52, 0.45, 1];
			return surfaceMaterial(this.light, {
				colour: [r, g, b],
				opacity,
				roughness: given?.roughness ?? 0.9,
				metallic: given?.metal ?? 0,
				...(mark === 'selected' && { tint: GLOW }),
				side: this.#side
			});
		});
	}

	heat(vertices: boolean): THREE.Material {
		return this.#kept(`heat ${vertices}`, () => heatMaterial(this.light, vertices, this.#side));
	}

	#lineColour(hot: boolean, mark: Mark): number {
		if (hot) return 0xffffff;
		if (mark === 'ghost') return GHOST;
		if (mark === 'selected') return CORAL[this.dark ? 'dusk' : 'paper'];
		return this.dark ? 0xe9e4d8 : 0x1e2b2e;
	}

	/** One pixel wide: edges, and curves where there are too many. @param hot coloured by a heat map. */
	lines(hot: boolean, mark: Mark, opacity: number, copies: boolean): THREE.Material {
		return this.#kept(`lines ${mark} ${this.dark} ${opacity} ${copies} ${hot}`, () => {
			const material = new THREE.ShaderMaterial({
				uniforms: {
					reach: this.reach,
					lineColour: { value: new THREE.Color(this.#lineColour(hot, mark)) },
					opacity: { value: mark === 'ghost' ? 0.4 : opacity }
				},
				defines: { ...(copies && { COPIES: '' }) },
				vertexColors: hot,
				transparent: true,
				depthWrite: false,
				vertexShader: /* glsl */ `
					${PLACED}
					${PALER}
					varying vec4 vColour;
					uniform vec3 lineColour;
					uniform float opacity;
					void main() {
						vec4 world = placedWorld();
						vec3 own = lineColour;
						#ifdef USE_COLOR
							own *= color.rgb;
						#endif
						vColour = vec4(own, opacity * paler(world));
						gl_Position = projectionMatrix * viewMatrix * world;
					}
				`,
				fragmentShader: 'varying vec4 vColour; void main() { gl_FragColor = vColour; }'
			});
			return material;
		});
	}

	/** Two pixels wide. */
	wideLines(hot: boolean, mark: Mark): LineMaterial {
		return this.#kept(
			`wide lines ${mark} ${this.dark} ${hot}`,
			() =>
				new LineMaterial({
					color: this.#lineColour(hot, mark),
					vertexColors: hot,
					linewidth: mark === 'selected' ? 3 : 2,
					transparent: true,
					opacity: mark === 'ghost' ? 0.4 : 1
				})
		);
	}

	/** Discs with a rim, so that they are told apart where many lie over one another. */
	points(hot: boolean, mark: Mark, copies: boolean): THREE.Material {
		const own = mark === 'plain' ? (this.dark ? 0x58b8aa : 0x1f7a70) : this.#lineColour(hot, mark);
		return this.#kept(
			`points ${mark} ${this.dark} ${hot} ${copies}`,
			() =>
				new THREE.ShaderMaterial({
					uniforms: {
						reach: this.reach,
						ratio: this.ratio,
						discColour: { value: new THREE.Color(hot ? 0xffffff : own) },
						opacity: { value: mark === 'ghost' ? 0.4 : 1 }
					},
					defines: { ...(copies && { COPIES: '' }) },
					vertexColors: hot,
					transparent: true,
					vertexShader: /* glsl */ `
						${PLACED}
						${PALER}
						varying vec4 vColour;
						uniform vec3 discColour;
						uniform float opacity;
						uniform float ratio;
						void main() {
							vec4 world = placedWorld();
							vec3 own = discColour;
							#ifdef USE_COLOR
								own *= color.rgb;
							#endif
							vColour = vec4(own, opacity * paler(world));
							gl_Position = projectionMatrix * viewMatrix * world;
							gl_PointSize = ${DISC.toFixed(1)} * ratio;
						}
					`,
					fragmentShader: /* glsl */ `
						varying vec4 vColour;
						void main() {
							float far = length(gl_PointCoord - 0.5) * 2.0;
							if (far > 1.0) discard;
							gl_FragColor = vec4(vColour.rgb * (far > 0.7 ? 0.6 : 1.0), vColour.a);
						}
					`
				})
		);
	}

	dispose(): void {
		for (const material of this.#made.values()) material.dispose();
		this.#made.clear();
	}
}
