/** What the packets of the worker say, as three objects. Buffers are kept by their keys: what did not change is not made again. */
import * as THREE from 'three';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { Packet, PacketDraw, PacketObject } from '$core/session/messages';
import { linearColours } from './linear-colours';
import type { Mark, Materials } from './materials';
import { everyNth, outermost } from './outermost';

export type Shading = 'shaded' | 'wireframe' | 'both';

/** What was made of a packet's object. */
interface Known {
	geometry: THREE.BufferGeometry;
	edges: THREE.BufferGeometry | null;
	/** For curves that are drawn wide, made when they first are. */
	wide?: LineSegmentsGeometry;
	packet: PacketObject;
}

/** A piece of what is drawn that is small enough to be drawn at once. */
export interface Part {
	object: THREE.Object3D;
	triangles: number;
	/** Whether it is drawn after all that hides what lies behind it. */
	late: boolean;
	casts: boolean;
	/** Where it holds copies: the first of them, how many it holds, and how many there are beside it. */
	copies: { from: number; count: number; of: number } | null;
}

/** Pieces of curves that are still drawn wide; more of them are hair lines, which cost a tenth. */
const MOST_WIDE = 60_000;
/** Copies are cut into pieces of about so many triangles, but not into more pieces than this. */
const PIECE_TRIANGLES = 8_000;
const MOST_PIECES = 1000;
/** So many points of a shape, and so many of its copies, stand for all of them where it is asked how large they look. */
const MOST_SEEN = 4000;
const MOST_PLACES_SEEN = 500;
const MOST_DRAWS_SEEN = 16;
/** So many places are looked at in all. */
const MOST_OUTLINE = 30_000;

/** Pieces of curves for wide lines; their positions are used as they lie. */
function wideGeometry({ positions, colours }: PacketObject): LineSegmentsGeometry {
	const wide = new LineSegmentsGeometry();
	wide.setPositions(positions);
	if (colours) wide.setColors(Float32Array.from(linearColours(colours), (c) => c / 65535));
	return wide;
}

/** A geometry at its copies’ places, for lines and points. */
function copiesOf(
	geometry: THREE.BufferGeometry,
	matrices: Float32Array,
	count: number
): THREE.InstancedBufferGeometry {
	const instanced = new THREE.InstancedBufferGeometry();
	instanced.setAttribute('position', geometry.getAttribute('position'));
	instanced.setAttribute('placed', new THREE.InstancedBufferAttribute(matrices, 16));
	instanced.instanceCount = count;
	return instanced;
}

export class Content extends THREE.Group {
	/** What is drawn, in pieces. */
	parts: readonly Part[] = [];
	readonly #materials: Materials;
	#geometries = new Map<string, Known>();
	#matrices = new Map<string, Float32Array>();
	#draws: PacketDraw[] = [];
	/** The pieces of each draw, by all that they depend on, so that a draw which did not change keeps its buffers. */
	#made = new Map<string, readonly Part[]>();
	#colourKeys = new WeakMap<object, number>();
	#coloured = 0;
	#shading: Shading = 'shaded';
	#selected: string | null = null;
	/** Found when it is first asked for. */
	#outline: Float32Array | null = null;

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
				this.#matrices.set(draw.matricesKey, draw.matrices);
		const before = this.#draws;
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

	/** Makes the pieces for the draws at hand. What depends on the same as before is kept, its buffers too. */
	rebuild(): void {
		this.clear();
		this.#outline = null;
		const shownNodes = new Set(this.#draws.filter((draw) => !draw.ghost).map((draw) => draw.node));
		const made = new Map<string, readonly Part[]>();
		for (const draw of this.#draws) {
			const known = this.#geometries.get(draw.object);
			const matrices = draw.matricesKey ? this.#matrices.get(draw.matricesKey) : null;
			if (!known || (draw.matricesKey && !matrices)) continue;
			// Where it is shown alone there is nothing to tell it apart from.
			const mark: Mark = draw.ghost
				? 'ghost'
				: shownNodes.size > 1 && draw.node === this.#selected
					? 'selected'
					: 'plain';
			const key = [
				draw.node,
				draw.object,
				draw.matricesKey,
				draw.count,
				mark,
				this.#shading,
				this.#materials.dark,
				draw.colours ? this.#keyOf(draw.colours) : ''
			].join(' ');
			const parts = this.#made.get(key) ?? this.#partsOf(draw, known, matrices ?? null, mark);
			made.set(key, parts);
			for (const { object } of parts) this.add(object);
		}
		for (const [key, parts] of this.#made) if (!made.has(key)) letGo(parts);
		this.#made = made;
		this.parts = [...made.values()].flat();
		this.#materials.letGoBut(
			new Set(this.parts.flatMap(({ object }) => [(object as THREE.Mesh).material].flat()))
		);
	}

	#keyOf(colours: object): number {
		let key = this.#colourKeys.get(colours);
		if (!key) this.#colourKeys.set(colours, (key = ++this.#coloured));
		return key;
	}

	#partsOf(draw: PacketDraw, known: Known, matrices: Float32Array | null, mark: Mark): Part[] {
		const { geometry, edges, packet } = known;
		const parts: Part[] = [];
		const add = (object: THREE.Object3D, rest: Omit<Part, 'object'>) => {
			object.frustumCulled = false;
			object.matrixAutoUpdate = false;
			object.userData = { node: draw.node, ghost: draw.ghost };
			parts.push({ object, ...rest });
		};
		const late = { late: true, casts: false, copies: null };
		if (packet.kind === 'mesh') {
			if (this.#shading !== 'wireframe' || !edges) this.#addSurfaces(draw, known, matrices, mark, add);
			if (edges && this.#shading !== 'shaded') {
				const count = (edges.getAttribute('position').count / 2) * (matrices ? draw.count : 1);
				add(this.#lines(edges, matrices, draw, mark, this.#shading === 'both' ? 0.55 : 1), {
					triangles: count,
					...late
				});
			}
		} else if (packet.kind === 'lines' && !matrices && packet.positions.length / 6 <= MOST_WIDE) {
			known.wide ??= wideGeometry(packet);
			const wide = new LineSegments2(known.wide, this.#materials.wideLines(!!packet.colours, mark));
			add(wide, { triangles: packet.positions.length / 3, ...late });
		} else {
			const count = (packet.positions.length / 3) * (matrices ? draw.count : 1);
			const object =
				packet.kind === 'lines'
					? this.#lines(geometry, matrices, draw, mark, 1)
					: new THREE.Points(
							matrices ? copiesOf(geometry, matrices, draw.count) : geometry,
							this.#materials.points(geometry.hasAttribute('color'), mark, !!matrices)
						);
			add(object, { triangles: count, ...late });
		}
		return parts;
	}

	#lines(
		geometry: THREE.BufferGeometry,
		matrices: Float32Array | null,
		draw: PacketDraw,
		mark: Mark,
		opacity: number
	): THREE.LineSegments {
		const material = this.#materials.lines(geometry.hasAttribute('color'), mark, opacity, !!matrices);
		return new THREE.LineSegments(matrices ? copiesOf(geometry, matrices, draw.count) : geometry, material);
	}

	/** A mesh once, or its copies in pieces of a few thousand triangles each. */
	#addSurfaces(
		draw: PacketDraw,
		{ geometry, packet }: Known,
		matrices: Float32Array | null,
		mark: Mark,
		add: (object: THREE.Object3D, rest: Omit<Part, 'object'>) => void
	): void {
		const hot = (!!packet.colours && !packet.painted) || (!!draw.colours && !draw.painted);
		const paint = packet.painted ? 'vertices' : draw.painted ? 'copies' : null;
		const materials = packet.groups!.map(({ material }) =>
			hot ? this.#materials.heat(!!packet.colours) : this.#materials.surface(material, mark, paint)
		);
		const look = {
			late: materials.some((material) => material.transparent),
			casts: mark !== 'ghost' && !materials.every((material) => material.transparent)
		};
		const each = packet.index!.length / 3;
		if (!matrices)
			return add(new THREE.Mesh(geometry, materials), {
				triangles: each,
				copies: draw.share ?? null,
				...look
			});
		const size = Math.ceil(Math.max(PIECE_TRIANGLES / Math.max(1, each), draw.count / MOST_PIECES));
		const colours = draw.colours && linearColours(draw.colours);
		for (let from = 0; from < draw.count; from += size) {
			const count = Math.min(size, draw.count - from);
			const mesh = new THREE.InstancedMesh(geometry, materials, 0);
			mesh.instanceMatrix = new THREE.InstancedBufferAttribute(
				matrices.subarray(16 * from, 16 * (from + count)),
				16
			);
			mesh.count = count;
			if (colours)
				mesh.instanceColor = new THREE.InstancedBufferAttribute(
					colours.subarray(3 * from, 3 * (from + count)),
					3,
					true
				);
			add(mesh, { triangles: each * count, copies: { from, count, of: draw.count }, ...look });
		}
	}

	set shading(shading: Shading) {
		this.#shading = shading;
		this.rebuild();
	}

	/** Tells a node's parts apart from the others. Answers whether anything looks otherwise than before. */
	select(node: string | null): boolean {
		if (node === this.#selected) return false;
		this.#selected = node;
		const before = this.parts;
		this.rebuild();
		return before.length !== this.parts.length || before.some((part, i) => part !== this.parts[i]);
	}

	/** Materials were made anew: nothing that was built of the old ones is kept. */
	renew(): void {
		for (const parts of this.#made.values()) letGo(parts);
		this.#made.clear();
		this.rebuild();
	}

	/**
	 * Places that stand for all that is shown, but for ghosts: of each shape and of its copies as many as are soon looked
	 * through. Empty where nothing is shown.
	 */
	outline(): Float32Array {
		return (this.#outline ??= this.#findOutline());
	}

	#findOutline(): Float32Array {
		const out: number[] = [];
		const at = new THREE.Vector3();
		const matrix = new THREE.Matrix4();
		for (const draw of this.#draws) {
			const known = this.#geometries.get(draw.object);
			const matrices = draw.matricesKey ? this.#matrices.get(draw.matricesKey) : null;
			if (!known || draw.ghost || (draw.matricesKey && !matrices)) continue;
			const { positions } = known.packet;
			const places = matrices ? draw.count : 1;
			// Of very many things each is asked less.
			const share = Math.min(1, MOST_DRAWS_SEEN / this.#draws.length);
			const each = Math.max(1, Math.ceil(places / (MOST_PLACES_SEEN * share)));
			const few = Math.max(8, share * (matrices ? MOST_SEEN / 16 : MOST_SEEN));
			const step = Math.max(1, Math.ceil(positions.length / 3 / few));
			// Which of very many things stands out is asked of all of them together, below.
			const points = [
				...everyNth(positions.length / 3, step),
				...(share < 1 ? [] : outermost(positions, 3, 0))
			];
			const copies = matrices ? [...everyNth(places, each), ...outermost(matrices, 16, 12)] : [0];
			for (const copy of copies) {
				if (matrices) matrix.fromArray(matrices, 16 * copy);
				for (const point of points) {
					at.fromArray(positions, 3 * point);
					if (matrices) at.applyMatrix4(matrix);
					out.push(at.x, at.y, at.z);
				}
			}
		}
		return thinned(Float32Array.from(out));
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
		for (const parts of this.#made.values()) letGo(parts);
		for (const { geometry, edges, wide } of this.#geometries.values()) {
			geometry.dispose();
			edges?.dispose();
			wide?.dispose();
		}
	}
}

/** Of very many places some, those that lie outermost among them. */
function thinned(places: Float32Array): Float32Array {
	const count = places.length / 3;
	if (count <= MOST_OUTLINE) return places;
	const kept = [...everyNth(count, Math.ceil(count / MOST_OUTLINE)), ...outermost(places, 3, 0)];
	return Float32Array.from(kept.flatMap((i) => [places[3 * i], places[3 * i + 1], places[3 * i + 2]]));
}

/** Frees what belongs to pieces alone: the places of copies. Their shapes may serve others. */
function letGo(parts: readonly Part[]): void {
	for (const { object } of parts) {
		if (object instanceof THREE.InstancedMesh) object.dispose();
		const { geometry } = object as THREE.Mesh;
		if (geometry instanceof THREE.InstancedBufferGeometry && !(object instanceof LineSegments2)) {
			// Its positions are those of the shape that was copied.
			geometry.deleteAttribute('position');
			geometry.dispose();
		}
	}
}
