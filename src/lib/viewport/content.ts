/** What the packets of the worker say, as three objects. Buffers are kept by their keys: what did not change is not made again. */
import * as THREE from 'three';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { Packet, PacketDraw, PacketObject } from '$lib/worker/messages';
import type { Materials } from './materials';

export type Shading = 'shaded' | 'wireframe' | 'both';
type Add = (object: THREE.Object3D) => void;

/** What was made of a packet's object. */
interface Known {
	geometry: THREE.BufferGeometry;
	edges: THREE.BufferGeometry | null;
	/** For curves that are drawn wide, made when they first are. */
	wide?: LineSegmentsGeometry;
	packet: PacketObject;
}

interface Drawn {
	object: THREE.Object3D;
	draw: PacketDraw;
}

/** Colours of the screen as linear light, which is what attributes hold. */
function linearColours(colours: Uint8Array): Uint16Array {
	const out = new Uint16Array(colours.length);
	for (let i = 0; i < colours.length; i++) out[i] = LINEAR[colours[i]];
	return out;
}
const LINEAR = Uint16Array.from({ length: 256 }, (_, i) => {
	const c = i / 255;
	return Math.round(65535 * (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
});

/** Pieces of curves that are still drawn wide; more of them are hair lines, which cost a tenth. */
const MOST_WIDE = 60_000;

/** Pieces of curves for wide lines; their positions are used as they lie. */
function wideGeometry({ positions, colours }: PacketObject): LineSegmentsGeometry {
	const wide = new LineSegmentsGeometry();
	wide.setPositions(positions);
	if (colours) wide.setColors(Float32Array.from(linearColours(colours), (c) => c / 65535));
	return wide;
}

const placings = new WeakMap<object, WeakMap<object, THREE.InstancedBufferGeometry>>();

/** A geometry at its copies’ places, for lines and points; the same one again for the same places. */
function copiesOf(
	geometry: THREE.BufferGeometry,
	matrices: THREE.InstancedBufferAttribute,
	count: number
): THREE.InstancedBufferGeometry {
	let own = placings.get(geometry);
	if (!own) placings.set(geometry, (own = new WeakMap()));
	let instanced = own.get(matrices);
	if (instanced) return instanced;
	instanced = new THREE.InstancedBufferGeometry();
	instanced.setAttribute('position', geometry.getAttribute('position'));
	instanced.setAttribute('placed', matrices);
	instanced.instanceCount = count;
	own.set(matrices, instanced);
	return instanced;
}

export class Content extends THREE.Group {
	readonly #materials: Materials;
	#geometries = new Map<string, Known>();
	#matrices = new Map<string, THREE.InstancedBufferAttribute>();
	#draws: PacketDraw[] = [];
	#drawn: Drawn[] = [];
	#shading: Shading = 'shaded';

	constructor(materials: Materials) {
		super();
		this.#materials = materials;
	}

	/**
	 * Takes a packet. `keeps` are nodes whose last picture stays because they failed; where none of them was ever drawn,
	 * what was drawn before stays instead.
	 * @returns whether the picture shows something that is not in the packet.
	 */
	take(packet: Packet, keeps: ReadonlySet<string>): boolean {
		for (const object of packet.objects) this.#addObject(object);
		for (const draw of packet.draws)
			if (draw.matricesKey && draw.matrices && !this.#matrices.has(draw.matricesKey))
				this.#matrices.set(draw.matricesKey, new THREE.InstancedBufferAttribute(draw.matrices, 16));
		const before = this.#drawn.map(({ draw }) => draw);
		const own = before.filter((draw) => keeps.has(draw.node));
		const kept =
			own.length || !keeps.size || packet.draws.some((draw) => !draw.ghost)
				? own
				: before.filter((draw) => !draw.ghost);
		this.#draws = [...packet.draws, ...new Set(kept)];
		this.rebuild();
		const used = new Set(this.#draws.flatMap((draw) => [draw.object, draw.matricesKey ?? '']));
		for (const [key, { geometry, edges, wide }] of this.#geometries)
			if (!used.has(key)) {
				geometry.dispose();
				edges?.dispose();
				wide?.dispose();
				this.#geometries.delete(key);
			}
		for (const key of this.#matrices.keys()) if (!used.has(key)) this.#matrices.delete(key);
		return kept.length > 0;
	}

	#addObject(packet: PacketObject): void {
		const geometry = new THREE.BufferGeometry();
		geometry.setAttribute('position', new THREE.BufferAttribute(packet.positions, 3));
		if (packet.normals) geometry.setAttribute('normal', new THREE.BufferAttribute(packet.normals, 3));
		if (packet.index) geometry.setIndex(new THREE.BufferAttribute(packet.index, 1));
		if (packet.colours)
			geometry.setAttribute('color', new THREE.BufferAttribute(linearColours(packet.colours), 3, true));
		packet.groups?.forEach(({ start, count }, i) => geometry.addGroup(start, count, i));
		let edges: THREE.BufferGeometry | null = null;
		if (packet.edges) {
			edges = new THREE.BufferGeometry();
			edges.setAttribute('position', new THREE.BufferAttribute(packet.edges, 3));
		}
		this.#geometries.set(packet.key, { geometry, edges, packet });
	}

	/** Makes the three objects for the draws at hand; buffers are kept, so this is cheap. */
	rebuild(): void {
		this.clear();
		for (const { object } of this.#drawn) if (object instanceof THREE.InstancedMesh) object.dispose();
		this.#drawn = [];
		for (const draw of this.#draws) {
			const known = this.#geometries.get(draw.object);
			if (!known) continue;
			const { geometry, edges, packet } = known;
			const matrices = draw.matricesKey ? this.#matrices.get(draw.matricesKey) : null;
			if (draw.matricesKey && !matrices) continue;
			const add: Add = (object) => {
				object.frustumCulled = false;
				object.matrixAutoUpdate = false;
				object.userData = { node: draw.node, ghost: draw.ghost };
				this.add(object);
				this.#drawn.push({ object, draw });
			};
			if (packet.kind === 'mesh') {
				const hot = !!packet.colours || !!draw.colours;
				const materials = packet.groups!.map(({ material }) =>
					hot ? this.#materials.heat(!!packet.colours) : this.#materials.surface(material, draw.ghost)
				);
				if (this.#shading !== 'wireframe' || !edges) {
					if (matrices) {
						const mesh = new THREE.InstancedMesh(geometry, materials, 0);
						mesh.instanceMatrix = matrices;
						mesh.count = draw.count;
						if (draw.colours)
							mesh.instanceColor = new THREE.InstancedBufferAttribute(linearColours(draw.colours), 3, true);
						add(mesh);
					} else add(new THREE.Mesh(geometry, materials));
				}
				if (edges && this.#shading !== 'shaded')
					this.#addLines(edges, matrices ?? null, draw, add, this.#shading === 'both' ? 0.55 : 1);
			} else if (packet.kind === 'lines' && !matrices && packet.positions.length / 6 <= MOST_WIDE)
				this.#addWideLines(known, draw, add);
			else if (packet.kind === 'lines') this.#addLines(geometry, matrices ?? null, draw, add, 1);
			else this.#addPoints(geometry, matrices ?? null, draw, add);
		}
	}

	/** Curves two pixels wide. */
	#addWideLines(known: Known, draw: PacketDraw, add: Add): void {
		known.wide ??= wideGeometry(known.packet);
		add(new LineSegments2(known.wide, this.#materials.wideLines(!!known.packet.colours, draw.ghost)));
	}

	#addLines(
		geometry: THREE.BufferGeometry,
		matrices: THREE.InstancedBufferAttribute | null,
		draw: PacketDraw,
		add: Add,
		opacity: number
	): void {
		const material = this.#materials.lines(geometry.hasAttribute('color'), draw.ghost, opacity, !!matrices);
		add(new THREE.LineSegments(matrices ? copiesOf(geometry, matrices, draw.count) : geometry, material));
	}

	#addPoints(
		geometry: THREE.BufferGeometry,
		matrices: THREE.InstancedBufferAttribute | null,
		draw: PacketDraw,
		add: Add
	): void {
		const material = this.#materials.points(geometry.hasAttribute('color'), draw.ghost, !!matrices);
		add(new THREE.Points(matrices ? copiesOf(geometry, matrices, draw.count) : geometry, material));
	}

	set shading(shading: Shading) {
		this.#shading = shading;
		this.rebuild();
	}

	/** What a ray may meet. Lines and points of copies are left out: their places are known to the shader alone. */
	get pickable(): THREE.Object3D[] {
		return this.children.filter(
			(child) =>
				!child.userData.ghost &&
				!(
					(child as THREE.Mesh).geometry instanceof THREE.InstancedBufferGeometry &&
					!(child instanceof LineSegments2)
				)
		);
	}

	dispose(): void {
		for (const { geometry, edges, wide } of this.#geometries.values()) {
			geometry.dispose();
			edges?.dispose();
			wide?.dispose();
		}
	}
}
