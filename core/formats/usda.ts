/**
 * USD in ASCII: point instancers with samples of places, rotations, sizes and visibility over time, meshes, curves and
 * points with samples of their places, materials. Metres, y up. Frames are added one after another.
 */
import { NodeError } from '../math/index.ts';
import type { Curves, Geometry, Instances, Material, Mesh, Table } from '../geometry/index.ts';
import { WIDTH, cornerNormals, countsOf, floats, idsOf, pollAt, shears } from '../geometry/index.ts';
import type { CameraShot } from './camera-shot.ts';
import { FAR, NEAR, halfTangent, turnOf } from './camera-shot.ts';
import { isLike } from './glb-shapes.ts';
import { unitised } from './glb-meshes.ts';
import { rigidParts } from './rigid-parts.ts';
import type { AttributeNames } from './glb-meshes.ts';
import { Prim, UsdaRoom, identifier, list, numeral, tuples } from './usda-text.ts';

export interface UsdaOptions {
	/** Frames a second. */
	rate: number;
	attributes?: AttributeNames;
	name?: string;
}

/** How thick points and curves are drawn, in metres; they have no thickness of their own. */
const WIDTH_SHOWN = 0.01;
/** The height of a picture behind a lens, in whatever the focal length is in. */
const APERTURE = 24;
/** So many points of all frames are held to find what moves as a whole. */
const MOST_HELD = 20_000_000;

export class UsdaFile {
	readonly #options: UsdaOptions;
	readonly #room = new UsdaRoom();
	readonly #root: Prim;
	readonly #materials = new Map<string, string>();
	#held: { geometry: Geometry; frame: number }[] | null = [];
	readonly #turns = new Map<Prim, readonly number[]>();
	#first = Infinity;
	#last = -Infinity;

	constructor(options: UsdaOptions) {
		this.#options = options;
		this.#root = new Prim('Xform', identifier(options.name ?? ''), null, this.#room);
	}

	/** Adds a frame, in order. Throws NodeError where it cannot be said in USD, or becomes too much. */
	add(geometry: Geometry, frame: number, cameras: readonly CameraShot[] = []): void {
		this.#first = Math.min(this.#first, frame);
		this.#last = Math.max(this.#last, frame);
		const { copies, ...own } = geometry;
		this.#hold({ ...own, copies: null }, frame);
		if (copies?.copies.count || this.#root.children.has('Copies')) this.#copies(this.#root, copies, frame);
		for (const shot of cameras) this.#camera(shot, frame);
	}

	/** What is there beside copies is held until all frames are there, and told what of it moves as a whole. */
	#hold(geometry: Geometry, frame: number): void {
		const first = this.#held?.at(0)?.geometry;
		const { points } = countsOf(geometry);
		const mayMove =
			this.#held && points * (this.#held.length + 1) <= MOST_HELD && (!first || isLike(first, geometry));
		if (mayMove) return void this.#held!.push({ geometry, frame });
		this.#putHeld();
		this.#putOwn(this.#root, geometry, frame);
	}

	/** Writes what is held as it is at each frame. */
	#putHeld(): void {
		const held = this.#held ?? [];
		this.#held = null;
		for (const { geometry, frame } of held) this.#putOwn(this.#root, geometry, frame);
	}

	/** Writes what is held: parts that move as wholes by their places, the rest as it is at each frame. */
	#finish(): void {
		const held = this.#held ?? [];
		const parts = rigidParts(held.map(({ geometry }) => geometry));
		if (!parts.some(({ poses }) => poses)) return this.#putHeld();
		this.#held = null;
		parts.forEach(({ states, poses }, k) => {
			const prim = this.#root.child('Xform', `Part_${k + 1}`);
			held.forEach(({ frame }, i) => {
				if (i < states.length) this.#putOwn(prim, states[i], states.length > 1 ? frame : held[0].frame);
				if (!poses) return;
				const { position, orientation, scale } = poses[i];
				this.#placed(prim, frame, position, orientation, [scale, scale, scale]);
			});
		});
	}

	/** The place, rotation and size of a prim at a frame. */
	#placed(
		prim: Prim,
		frame: number,
		position: readonly number[],
		orientation: readonly number[],
		scale: readonly number[] | null = null
	): void {
		// Of the two names of a rotation the one that is nearer to the last, so that it goes the shorter way.
		const last = this.#turns.get(prim);
		const isFar = last && orientation.reduce((sum, x, k) => sum + x * last[k], 0) < 0;
		const turn = isFar ? orientation.map((x) => -x) : orientation;
		this.#turns.set(prim, turn);
		prim.set(frame, 'double3 xformOp:translate', tuple(position));
		prim.set(frame, 'quatf xformOp:orient', tuple(realFirst(Float32Array.from(turn))));
		if (scale) prim.set(frame, 'float3 xformOp:scale', tuple(scale));
		prim.fixed.set(
			'uniform token[] xformOpOrder',
			list(['translate', 'orient', ...(scale ? ['scale'] : [])].map((name) => `"xformOp:${name}"`))
		);
	}

	/** A camera: of apertures and lengths only their shares count, but for one without perspective, in tenths of a metre. */
	#camera(shot: CameraShot, frame: number): void {
		const prim = this.#root.child('Camera', identifier(shot.name, 'Camera'));
		const isStraight = shot.half !== null;
		const rim = isStraight ? 20 * shot.half : APERTURE;
		prim.fixed.set('token projection', isStraight ? '"orthographic"' : '"perspective"');
		prim.fixed.set('float2 clippingRange', `(${NEAR}, ${FAR})`);
		prim.set(frame, 'float verticalAperture', numeral(rim));
		prim.set(frame, 'float horizontalAperture', numeral((rim * 16) / 9));
		if (!isStraight) prim.set(frame, 'float focalLength', numeral(APERTURE / 2 / halfTangent(shot)));
		this.#placed(prim, frame, shot.position, turnOf(shot));
	}

	/** The file, in pieces of text. */
	*text(): Generator<string> {
		this.#finish();
		const { rate } = this.#options;
		yield `#usda 1.0\n(\n\tdefaultPrim = "${this.#root.path.slice(1)}"\n\tmetersPerUnit = 1\n\tupAxis = "Y"\n`;
		if (this.#first < this.#last)
			yield `\tstartTimeCode = ${this.#first}\n\tendTimeCode = ${this.#last}\n\ttimeCodesPerSecond = ${numeral(rate)}\n\tframesPerSecond = ${numeral(rate)}\n`;
		yield ')\n\n';
		yield* this.#root.lines();
	}

	bytes(): Uint8Array {
		const encoder = new TextEncoder();
		const pieces: Uint8Array[] = [];
		for (const piece of this.text()) pieces.push(encoder.encode(piece));
		const out = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
		let at = 0;
		for (const piece of pieces) {
			out.set(piece, at);
			at += piece.length;
		}
		return out;
	}

	#put(parent: Prim, geometry: Geometry, frame: number): void {
		this.#putOwn(parent, geometry, frame);
		const { copies } = geometry;
		if (copies?.copies.count || parent.children.has('Copies')) this.#copies(parent, copies, frame);
	}

	/** All but copies. */
	#putOwn(parent: Prim, { mesh, curves, points, materials }: Geometry, frame: number): void {
		// What is nowhere at a frame is there with nothing in it, once it was there at another.
		if (mesh?.faces.count || parent.children.has('Surface')) this.#mesh(parent, mesh, materials, frame);
		if (curves?.points.count || parent.children.has('Lines')) this.#curves(parent, curves, frame);
		if (points?.points.count || parent.children.has('Points'))
			this.#points(parent, points?.points ?? null, frame);
	}

	#mesh(parent: Prim, mesh: Mesh | null, materials: readonly Material[], frame: number): void {
		const prim = parent.child('Mesh', 'Surface');
		prim.fixed.set('uniform token subdivisionScheme', '"none"');
		const counts: number[] = [],
			indices: number[] = [],
			corners: number[] = [],
			faces: number[] = [];
		const shown = mesh?.faces.columns.get('shown')?.data;
		for (let f = 0; mesh && f < mesh.faces.count; f++) {
			pollAt(f);
			if (shown && !shown[f]) continue;
			const { faceStarts, cornerPoints } = mesh.topology;
			counts.push(faceStarts[f + 1] - faceStarts[f]);
			for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
				indices.push(cornerPoints[c]);
				corners.push(c);
			}
			faces.push(f);
		}
		prim.set(frame, 'int[] faceVertexCounts', list(counts));
		prim.set(frame, 'int[] faceVertexIndices', list(indices));
		prim.set(frame, 'point3f[] points', tuples(mesh ? floats(mesh.points, 'position') : [], 3));
		if (!mesh) return;
		const normals = unitised(cornerNormals(mesh));
		prim.set(
			frame,
			'normal3f[] normals',
			tuples(rowsAt(normals, corners, 3), 3),
			'interpolation = "faceVarying"'
		);
		const uv = mesh.corners.columns.get('uv')?.data;
		if (uv)
			prim.set(
				frame,
				'texCoord2f[] primvars:st',
				tuples(rowsAt(uv, corners, 2), 2),
				'interpolation = "faceVarying"'
			);
		this.#primvars(prim, mesh.points, null, 'vertex', frame);
		this.#primvars(prim, mesh.faces, faces, 'uniform', frame);
		this.#primvars(prim, mesh.corners, corners, 'faceVarying', frame);
		const material = mesh.faces.columns.get('material')?.data;
		this.#bind(
			prim,
			materials,
			faces.map((f) => (material ? material[f] : 0))
		);
	}

	/** Binds materials: one to the whole, several to subsets of the faces as they are at the first frame. */
	#bind(prim: Prim, materials: readonly Material[], ofFaces: readonly number[]): void {
		if (!materials.length || prim.schemas.size || prim.children.size) return;
		const used = [...new Set(ofFaces)].filter((m) => materials[m]).sort((a, b) => a - b);
		// One for the whole only where no face goes without.
		if (used.length === 1 && ofFaces.every((m) => materials[m])) {
			prim.schemas.add('MaterialBindingAPI');
			prim.fixed.set('rel material:binding', `<${this.#material(materials[used[0]])}>`);
			return;
		}
		for (const m of used) {
			const subset = prim.child('GeomSubset', `Faces_${m + 1}`);
			subset.schemas.add('MaterialBindingAPI');
			subset.fixed.set('uniform token elementType', '"face"');
			subset.fixed.set('uniform token familyName', '"materialBind"');
			subset.fixed.set('int[] indices', list(ofFaces.flatMap((own, face) => (own === m ? [face] : []))));
			subset.fixed.set('rel material:binding', `<${this.#material(materials[m])}>`);
		}
	}

	/** The path of a material; the same for the same one. */
	#material(material: Material): string {
		const key = JSON.stringify(material);
		const known = this.#materials.get(key);
		if (known) return known;
		const scope = this.#root.child('Scope', 'Materials');
		const base = identifier(material.name, 'Material');
		let name = base;
		for (let n = 2; scope.children.has(name); n++) name = `${base}_${n}`;
		const prim = scope.child('Material', name);
		const shader = prim.child('Shader', 'Surface');
		prim.fixed.set('token outputs:surface.connect', `<${shader.path}.outputs:surface>`);
		shader.fixed.set('uniform token info:id', '"UsdPreviewSurface"');
		shader.fixed.set(
			'color3f inputs:diffuseColor',
			`(${material.colour.slice(0, 3).map(numeral).join(', ')})`
		);
		shader.fixed.set('float inputs:metallic', numeral(material.metallic));
		shader.fixed.set('float inputs:opacity', numeral(material.colour[3]));
		shader.fixed.set('float inputs:roughness', numeral(material.roughness));
		shader.fixed.set('token outputs:surface', '');
		this.#materials.set(key, prim.path);
		return prim.path;
	}

	/** Open and closed curves are prims of their own. */
	#curves(parent: Prim, curves: Curves | null, frame: number): void {
		const lines = parent.child('Scope', 'Lines');
		const closed = curves?.curves.columns.get('closed')?.data;
		for (const [name, wrap] of [
			['Open', 'nonperiodic'],
			['Closed', 'periodic']
		] as const) {
			const counts: number[] = [],
				rows: number[] = [];
			for (let c = 0; curves && c + 1 < curves.starts.length; c++) {
				const [from, to] = [curves.starts[c], curves.starts[c + 1]];
				// A closed one of two points is a line there and back.
				if ((!!closed?.[c] && to - from > 2) !== (name === 'Closed') || to - from < 2) continue;
				counts.push(to - from);
				for (let i = from; i < to; i++) rows.push(i);
			}
			if (!counts.length && !lines.children.has(name)) continue;
			const prim = lines.child('BasisCurves', name);
			prim.fixed.set('uniform token type', '"linear"');
			prim.fixed.set('uniform token wrap', `"${wrap}"`);
			prim.set(0, 'float[] widths', `[${WIDTH_SHOWN}]`, 'interpolation = "constant"');
			prim.set(frame, 'int[] curveVertexCounts', list(counts));
			const p = curves ? rowsAt(floats(curves.points, 'position'), rows, 3) : [];
			prim.set(frame, 'point3f[] points', tuples(p, 3));
			if (curves) this.#primvars(prim, curves.points, rows, 'vertex', frame);
		}
	}

	#points(parent: Prim, points: Table | null, frame: number): void {
		const prim = parent.child('Points', 'Points');
		prim.set(0, 'float[] widths', `[${WIDTH_SHOWN}]`, 'interpolation = "constant"');
		prim.set(frame, 'point3f[] points', tuples(points ? floats(points, 'position') : [], 3));
		prim.set(frame, 'int64[] ids', list(points ? names(points) : []));
		if (points) this.#primvars(prim, points, null, 'vertex', frame);
	}

	#copies(parent: Prim, instances: Instances | null, frame: number): void {
		const prim = parent.child('PointInstancer', 'Copies');
		const table = instances?.copies;
		if (table && shears(table))
			throw new NodeError(
				'Some copies shear, which a place, a rotation and a scale cannot say. Make one mesh of them with “Copies to mesh”.'
			);
		const prototypes = prim.child('Scope', 'Prototypes');
		instances?.sources.forEach((source, s) =>
			this.#put(prototypes.child('Xform', `Source_${s + 1}`), source, frame)
		);
		prim.fixed.set('rel prototypes', list([...prototypes.children.values()].map(({ path }) => `<${path}>`)));
		const ids = table ? names(table) : [];
		const shown = table?.columns.get('shown')?.data;
		prim.set(frame, 'int[] protoIndices', list(table ? Array.from(table.columns.get('source')!.data) : []));
		prim.set(frame, 'int64[] ids', list(ids));
		prim.set(frame, 'int64[] invisibleIds', list(ids.filter((_, i) => shown && !shown[i])));
		prim.set(frame, 'point3f[] positions', tuples(table ? floats(table, 'position') : [], 3));
		// USD writes the real part first. The finer one counts where a reader knows it; the other has 11 bits.
		const turns = tuples(table ? realFirst(unitised(floats(table, 'orientation'), 4)) : [], 4);
		prim.set(frame, 'quatf[] orientationsf', turns);
		prim.set(frame, 'quath[] orientations', turns);
		prim.set(frame, 'float3[] scales', tuples(table ? floats(table, 'scale') : [], 3));
		if (table) this.#primvars(prim, table, null, 'vertex', frame);
	}

	/** Elements' own colours, and the chosen attributes. */
	#primvars(prim: Prim, table: Table, rows: readonly number[] | null, way: string, frame: number): void {
		const note = `interpolation = "${way}"`;
		const take = (data: ArrayLike<number>, width: number) =>
			tuples(rows ? rowsAt(data, rows, width) : Array.from(data), width);
		const colour = table.columns.get('colour');
		if (colour?.role === 'colour' && colour.type === 'vec3')
			prim.set(frame, 'color3f[] primvars:displayColor', take(colour.data, 3), note);
		for (const { name, as } of this.#options.attributes ?? []) {
			const column = table.columns.get(name);
			if (!column || column.type === 'text') continue;
			const width = WIDTH[column.type];
			const data = rows ? rowsAt(column.data, rows, width) : Array.from(column.data);
			const key = `primvars:${identifier(as.replace(/^_+/, '').toLowerCase(), 'attribute')}`;
			prim.set(
				frame,
				`float${width > 1 ? width : ''}[] ${key}`,
				width > 1 ? tuples(data, width) : list(data.map(numeral)),
				note
			);
		}
	}
}

/** One row of numbers. */
const tuple = (data: ArrayLike<number>): string => `(${Array.from(data, numeral).join(', ')})`;

function rowsAt(data: ArrayLike<number>, rows: readonly number[], width: number): number[] {
	const out: number[] = [];
	for (const row of rows) for (let k = 0; k < width; k++) out.push(data[row * width + k]);
	return out;
}

function realFirst(q: Float32Array): Float32Array {
	const out = new Float32Array(q.length);
	for (let i = 0; i < q.length; i += 4) out.set([q[i + 3], q[i], q[i + 1], q[i + 2]], i);
	return out;
}

/** The ids of a table as 64-bit numbers. */
function names(table: Table): bigint[] {
	const ids = idsOf(table);
	return Array.from({ length: table.count }, (_, i) =>
		BigInt.asIntN(64, (BigInt(ids[2 * i + 1]) << 32n) | BigInt(ids[2 * i]))
	);
}
