/** glTF 2.0 in its binary form: meshes of all nodes with their materials, moved to where their nodes stand. */
import { NodeError, whatIsWrong } from '../math/index.ts';
import type { Geometry, Material } from '../geometry/index.ts';
import { geometryOf, matrix, mergeGeometries, transformGeometry, pollAt } from '../geometry/index.ts';
import type { Gltf } from './glb-parts.ts';
import { AccessorReader, chunksOf, gltfSchema } from './glb-parts.ts';
import { MOST_IN_FILE, MOST_NAMED, geometryFrom } from './polygons.ts';
import type { MeshRead } from './mesh-read.ts';

/** The extensions that change nothing about meshes, or that are read. */
const HARMLESS = new Set([
	'KHR_materials_unlit',
	'KHR_texture_transform',
	'KHR_mesh_quantization',
	'EXT_mesh_gpu_instancing',
	'KHR_lights_punctual'
]);
const DEEPEST = 64;

/** Reads a GLB. Throws NodeError with what is wrong. */
export function readGlb(bytes: Uint8Array, name: string): MeshRead {
	const { json, binary } = chunksOf(bytes, name);
	const gltf = checked(json, name);
	const warnings: string[] = movesOf(gltf);
	const reader = new AccessorReader(gltf, binary, name);
	const meshes = meshesOf(gltf, reader, name, warnings);
	const placed = placedIn(gltf, reader, meshes, name);
	return {
		geometry: placed.length ? mergeGeometries(placed) : geometryOf({}),
		warnings: [...new Set(warnings)]
	};
}

/** What moves in a file, which is not read. */
function movesOf({ animations, skins }: Gltf): string[] {
	if (!animations.length && !skins.length) return [];
	const [{ name = '' } = {}] = animations;
	const what =
		animations.length > 1
			? `${animations.length} animations are`
			: animations.length
				? `The animation${name && ` “${name.slice(0, 80)}”`} is`
				: 'Bones are';
	return [`${what} not read: the mesh stands as it stands in the file.`];
}

/** The description, where it is one of version 2 that needs nothing more than is read. */
function checked(json: unknown, name: string): Gltf {
	const parsed = gltfSchema.safeParse(json);
	if (!parsed.success) {
		throw new NodeError(`${name} is not sound glTF: ${whatIsWrong(parsed.error)}.`);
	}
	const gltf = parsed.data;
	if (!gltf.asset.version.startsWith('2'))
		throw new NodeError(`${name} is glTF ${gltf.asset.version.slice(0, 10)}; version 2 is read.`);
	const needed = gltf.extensionsRequired.filter((one) => !HARMLESS.has(one));
	if (needed.length)
		throw new NodeError(
			`${name} needs ${needed.slice(0, 3).join(', ')}, which is not read. Export it without compression.`
		);
	if (gltf.buffers.some((buffer, i) => buffer.uri !== undefined || i > 0))
		throw new NodeError(
			`${name} refers to another file for its data; only what is inside the GLB is read. Export it with everything embedded.`
		);
	return gltf;
}

/** The geometry of each mesh; null where it has no faces. */
function meshesOf(gltf: Gltf, reader: AccessorReader, name: string, warnings: string[]): (Geometry | null)[] {
	if (gltf.materials.some((m) => m.pbrMetallicRoughness.baseColorTexture))
		warnings.push('Pictures on materials are not read yet; the plain colours are kept.');
	const materials = gltf.materials.map((m): Material => ({
		name: m.name.slice(0, 200),
		colour: m.pbrMetallicRoughness.baseColorFactor as never,
		metallic: m.pbrMetallicRoughness.metallicFactor,
		roughness: m.pbrMetallicRoughness.roughnessFactor,
		twoSided: m.doubleSided
	}));
	return gltf.meshes.map((mesh, m) => {
		const parts = mesh.primitives.flatMap((primitive, k) => {
			if (primitive.mode < 4) {
				warnings.push('Points and lines of the file are no faces and were left out.');
				return [];
			}
			return [readPrimitive(reader, primitive, materials, `mesh ${m + 1}, part ${k + 1}`, name)];
		});
		return parts.length ? mergeGeometries(parts) : null;
	});
}

/** The meshes where the nodes of the scene put them; instanced ones as faces of their own. */
function placedIn(
	gltf: Gltf,
	reader: AccessorReader,
	meshes: readonly (Geometry | null)[],
	name: string
): Geometry[] {
	const placed: Geometry[] = [];
	const roots = gltf.scenes[gltf.scene ?? 0]?.nodes ?? gltf.nodes.map((_, i) => i);
	let visits = 0;
	const visit = (index: number, outer: Float64Array, depth: number) => {
		const node = gltf.nodes[index];
		if (!node) throw new NodeError(`${name} names node ${index}, but there are only ${gltf.nodes.length}.`);
		// Nodes are trees: each stands in one place. What contains itself would be visited again and again.
		if (depth > DEEPEST || ++visits > gltf.nodes.length)
			throw new NodeError(
				`${name} has nodes that contain one another without end, or stand in several places; in a glTF each stands once.`
			);
		const m = matrix.product(outer, placeOf(node));
		const mesh = node.mesh === undefined ? null : meshes[node.mesh];
		const instancing = node.extensions?.EXT_mesh_gpu_instancing?.attributes;
		if (mesh && !instancing) placed.push(transformGeometry(mesh, m));
		else if (mesh && instancing) {
			const { count, at } = instancesOf(reader, instancing);
			if (count * (mesh.mesh?.points.count ?? 0) > MOST_IN_FILE)
				throw new NodeError(`${name} has too many copies to be read as faces.`);
			for (let i = 0; i < count; i++) {
				pollAt(i);
				placed.push(transformGeometry(mesh, matrix.product(m, at(i))));
			}
		}
		for (const child of node.children) visit(child, m, depth + 1);
	};
	for (const root of roots) visit(root, matrix.identity(), 0);
	return placed;
}

/** Where a node stands in its parent. */
const placeOf = ({ matrix: m, translation, rotation, scale }: Gltf['nodes'][number]): Float64Array =>
	m
		? Float64Array.of(...[0, 1, 2].flatMap((c) => m.slice(4 * c, 4 * c + 3)), ...m.slice(12, 15))
		: matrix.compose(translation ?? [0, 0, 0], unit(rotation ?? NO_TURN), scale ?? [1, 1, 1]);

const NO_TURN: readonly number[] = [0, 0, 0, 1];

/** A rotation as it should be, 1 long; none where it has no length. */
function unit(q: readonly number[]): number[] {
	const largest = Math.max(...q.map(Math.abs));
	if (!(largest > 0 && largest < Infinity)) return [...NO_TURN];
	const scaled = q.map((x) => x / largest);
	const length = Math.sqrt(scaled.reduce((sum, x) => sum + x * x, 0));
	return scaled.map((x) => x / length);
}

/** How many instances a node has, and where each stands in it. */
function instancesOf(
	reader: AccessorReader,
	attributes: Record<string, number>
): { count: number; at: (i: number) => Float64Array } {
	const read = (key: string) => (attributes[key] === undefined ? null : reader.read(attributes[key]));
	const [t, r, s] = [read('TRANSLATION'), read('ROTATION'), read('SCALE')];
	const part = (from: ArrayLike<number> | null, width: number, i: number, otherwise: number[]) =>
		from ? Array.from({ length: width }, (_, k) => from[width * i + k]) : otherwise;
	return {
		count: Math.max(t ? t.length / 3 : 0, r ? r.length / 4 : 0, s ? s.length / 3 : 0),
		at: (i) =>
			matrix.compose(part(t, 3, i, [0, 0, 0]), unit(part(r, 4, i, [...NO_TURN])), part(s, 3, i, [1, 1, 1]))
	};
}

function readPrimitive(
	reader: AccessorReader,
	primitive: Gltf['meshes'][number]['primitives'][number],
	materials: Material[],
	where: string,
	name: string
): Geometry {
	const { POSITION, TEXCOORD_0, NORMAL } = primitive.attributes;
	if (POSITION === undefined) throw new NodeError(`${name}, ${where} has no positions.`);
	const positions = reader.read(POSITION, 3);
	const indices =
		primitive.indices === undefined
			? Uint32Array.from({ length: positions.length / 3 }, (_, i) => i)
			: Uint32Array.from(reader.read(primitive.indices, 1));
	const corners =
		primitive.mode === 4
			? indices.slice(0, indices.length - (indices.length % 3))
			: fromStrip(indices, primitive.mode === 6);
	const faces = corners.length / 3;
	const perCorner = (index: number | undefined, width: number) => {
		if (index === undefined) return null;
		const source = reader.read(index, width);
		const out = new Float32Array(corners.length * width);
		for (let c = 0; c < corners.length; c++) {
			pollAt(c);
			for (let k = 0; k < width; k++) out[c * width + k] = source[corners[c] * width + k] ?? 0;
		}
		return out;
	};
	const uvs = perCorner(TEXCOORD_0, 2);
	// glTF counts v downward, geometry upward.
	if (uvs)
		for (let i = 1; i < uvs.length; i += 2) {
			pollAt(i);
			uvs[i] = 1 - uvs[i];
		}
	const material = primitive.material === undefined ? undefined : materials[primitive.material];
	return geometryFrom(
		{
			name,
			positions,
			starts: Uint32Array.from({ length: faces + 1 }, (_, f) => 3 * f),
			corners,
			uvs,
			normals: perCorner(NORMAL, 3),
			colours: coloursOf(reader, primitive.attributes.COLOR_0, positions.length / 3),
			named: namedOf(reader, primitive.attributes, positions.length / 3),
			materials: material ? [material] : [],
			materialOf: material ? new Int32Array(faces) : null
		},
		() => where
	);
}

/** Linear colours of points, kept within 0 … 1; their opacity is left out. */
function coloursOf(reader: AccessorReader, index: number | undefined, points: number): Float32Array | null {
	if (index === undefined) return null;
	const { width, count } = reader.shapeOf(index);
	if ((width !== 3 && width !== 4) || count !== points) return null;
	const data = reader.read(index, width);
	const out = new Float32Array(3 * points);
	for (let i = 0; i < points; i++) {
		pollAt(i);
		for (let k = 0; k < 3; k++) {
			const x = data[width * i + k];
			out[3 * i + k] = x > 0 ? Math.min(1, x) : 0;
		}
	}
	return out;
}

/** Attributes of a program's own (`_HEIGHT`), in small letters and without the mark. */
function namedOf(
	reader: AccessorReader,
	attributes: Record<string, number>,
	points: number
): Map<string, { data: Float32Array; width: 1 | 3 }> {
	const named = new Map<string, { data: Float32Array; width: 1 | 3 }>();
	for (const [key, index] of Object.entries(attributes)) {
		const { width, count } = reader.shapeOf(index);
		// Before any memory is taken.
		if (named.size >= MOST_NAMED) break;
		if (!key.startsWith('_') || key.startsWith('_COLOR') || count !== points) continue;
		if (width === 1 || width === 3)
			named.set(key.slice(1).toLowerCase(), { data: reader.read(index, width), width });
	}
	return named;
}

function fromStrip(indices: Uint32Array, fan: boolean): Uint32Array {
	const out: number[] = [];
	for (let i = 0; i + 2 < indices.length; i++) {
		pollAt(i);
		const [a, b, c] = fan
			? [indices[0], indices[i + 1], indices[i + 2]]
			: i % 2
				? [indices[i + 1], indices[i], indices[i + 2]]
				: [indices[i], indices[i + 1], indices[i + 2]];
		if (a !== b && b !== c && a !== c) out.push(a, b, c);
	}
	return Uint32Array.from(out);
}
