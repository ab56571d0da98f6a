/** Materials of what is drawn, each made once. */
import * as THREE from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import type { PacketMaterial } from '$core/session/messages';
import type { LightUniforms } from './surface';
import { heatMaterial, surfaceMaterial } from './surface';

const GHOST = 0x8aa09e;
const CORAL = { paper: 0xc23e27, dusk: 0xf0765c };
/** Light added to surfaces that are selected. */
const GLOW = [0.2, 0.035, 0.012] as const;
/** Points are discs of so many pixels of the screen. */
export const DISC = 4;

/** So many materials are kept, in use or not: their shaders are soon wanted again. */
const MOST_KEPT = 120;

/** How a thing is told apart from the rest. */
export type Mark = 'plain' | 'ghost' | 'selected';

/**
 * Lines and discs in one colour, or in each vertex's own. Copies carry their places in `placed`, since lines and points are no
 * meshes. What is far away is paler: how far is far depends on how far the camera stands from what it looks at.
 */
const THIN_VERTEX = /* glsl */ `
	#ifdef COPIES
		attribute mat4 placed;
	#endif
	uniform float reach;
	uniform vec3 own;
	uniform float opacity;
	uniform float size;
	varying vec4 vColour;
	void main() {
		vec4 world = modelMatrix *
		#ifdef COPIES
			placed *
		#endif
			vec4(position, 1.0);
		vec3 colour = own;
		#ifdef USE_COLOR
			colour *= color.rgb;
		#endif
		float far = isOrthographic ? 0.0 : smoothstep(1.0, 3.2, distance(cameraPosition, world.xyz) / reach);
		vColour = vec4(colour, opacity * (1.0 - 0.72 * far));
		gl_Position = projectionMatrix * viewMatrix * world;
		gl_PointSize = size;
	}
`;
const LINE_FRAGMENT = 'varying vec4 vColour; void main() { gl_FragColor = vColour; }';
const DISC_FRAGMENT = /* glsl */ `
	varying vec4 vColour;
	void main() {
		float far = length(gl_PointCoord - 0.5) * 2.0;
		if (far > 1.0) discard;
		gl_FragColor = vec4(vColour.rgb * (far > 0.7 ? 0.6 : 1.0), vColour.a);
	}
`;

export class Materials {
	/** Whether they stand before a dark background. */
	dark = false;
	readonly light: LightUniforms;
	/** How far the camera stands from what it looks at. */
	readonly reach = { value: 10 };
	/** How wide discs are, in pixels of the picture. */
	readonly discSize = { value: DISC };
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

	surface(
		given: PacketMaterial | null,
		mark: Mark,
		paint: 'vertices' | 'copies' | null = null
	): THREE.Material {
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
		return this.#kept(`${mark} ${paint ?? ''} ${JSON.stringify(given)}`, () => {
			const [r, g, b, opacity] = given?.colour ?? (paint ? [1, 1, 1, 1] : [0.56, 0.52, 0.45, 1]);
			return surfaceMaterial(this.light, {
				colour: [r, g, b],
				opacity,
				paint,
				roughness: given?.roughness ?? 0.9,
				metallic: given?.metallic ?? 0,
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

	/** Lines or discs; see THIN_VERTEX. @param hot coloured by a heat map. */
	#thin(
		hot: boolean,
		copies: boolean,
		colour: number,
		opacity: number,
		fragmentShader: string
	): THREE.ShaderMaterial {
		return new THREE.ShaderMaterial({
			uniforms: {
				reach: this.reach,
				size: this.discSize,
				own: { value: new THREE.Color(hot ? 0xffffff : colour) },
				opacity: { value: opacity }
			},
			defines: { ...(copies && { COPIES: '' }) },
			vertexColors: hot,
			transparent: true,
			vertexShader: THIN_VERTEX,
			fragmentShader
		});
	}

	/** One pixel wide: edges, and curves where there are too many. @param hot coloured by a heat map. */
	lines(hot: boolean, mark: Mark, opacity: number, copies: boolean): THREE.Material {
		return this.#kept(`lines ${mark} ${this.dark} ${opacity} ${copies} ${hot}`, () => {
			const shown = mark === 'ghost' ? 0.4 : opacity;
			const material = this.#thin(hot, copies, this.#lineColour(hot, mark), shown, LINE_FRAGMENT);
			material.depthWrite = false;
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
		const colour = mark === 'plain' ? (this.dark ? 0x58b8aa : 0x1f7a70) : this.#lineColour(hot, mark);
		return this.#kept(`points ${mark} ${this.dark} ${hot} ${copies}`, () =>
			this.#thin(hot, copies, colour, mark === 'ghost' ? 0.4 : 1, DISC_FRAGMENT)
		);
	}

	/** Lets go of materials that are in no use, once there are many: a colour that is dragged makes one at each step. */
	letGoBut(used: ReadonlySet<THREE.Material>): void {
		if (this.#made.size <= MOST_KEPT) return;
		for (const [key, material] of this.#made)
			if (!used.has(material)) {
				material.dispose();
				this.#made.delete(key);
			}
	}

	dispose(): void {
		for (const material of this.#made.values()) material.dispose();
		this.#made.clear();
	}
}
