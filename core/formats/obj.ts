/** Wavefront OBJ: points, faces, UVs, normals, and materials by name, as an MTL behind the faces in the same text says. */
import { NodeError, formatCount } from '../math/index.ts';
import type { Affine, Geometry, Material, Mesh } from '../geometry/index.ts';
import { affineAt, cornerNormals, expand, floats, matrix, pollAt } from '../geometry/index.ts';
import { Growing, geometryFrom } from './polygons.ts';
import type { MeshRead } from './mesh-read.ts';

/** Reads an OBJ. Throws NodeError with the line at fault. */
export function readObj(bytes: Uint8Array, name: string): MeshRead {
	const text = new TextDecoder().decode(bytes);
	const positions = new Growing(Float32Array),
		starts = new Growing(Uint32Array),
		corners = new Growing(Uint32Array);
	const uvs = new Growing(Float32Array),
		normals = new Growing(Float32Array);
	const cornerUv = new Growing(Int32Array),
		cornerNormal = new Growing(Int32Array);
	const materialOf = new Growing(Int32Array),
		lines = new Growing(Uint32Array);
	const materials: Material[] = [];
	const places = new Map<string, number>();
	/** The whole names of materials. */
	const keys: string[] = [];
	let material = -1;
	let ignored = 0;
	/** What an MTL says of materials, and the one that it speaks of. */
	const library = new Map<string, Described>();
	let described: Described | null = null;
	let namesLibrary = '';
	starts.push(0);
	let at = 0;
	for (let line = 1; at < text.length; line++) {
		pollAt(line);
		let end = text.indexOf('\n', at);
		if (end < 0) end = text.length;
		let row = text.slice(at, end).trim();
		at = end + 1;
		if (row.endsWith('\\')) {
			// Put together once, however many lines go on.
			const pieces: string[] = [];
			while (row.endsWith('\\') && at < text.length) {
				pollAt(line);
				pieces.push(row.slice(0, -1));
				end = text.indexOf('\n', at);
				if (end < 0) end = text.length;
				row = text.slice(at, end).trim();
				at = end + 1;
				line++;
			}
			row = [...pieces, row].join(' ').trim();
		}
		if (!row || row[0] === '#') continue;
		const parts = row.split(/\s+/);
		const numbers = (into: Growing<Float32Array>, count: number, what: string) => {
			for (let k = 1; k <= count; k++) {
				pollAt(k);
				const x = Number(parts[k]);
				if (parts[k] === undefined || parts[k] === '' || !Number.isFinite(x))
					throw new NodeError(
						`${name}, line ${formatCount(line)}: a ${what} has ${parts[k] === undefined ? 'too few numbers' : `“${parts[k].slice(0, 30)}” where a number should stand`}.`
					);
				into.push(x);
			}
		};
		switch (parts[0]) {
			case 'v':
				numbers(positions, 3, 'point');
				break;
			case 'vt':
				numbers(uvs, Math.min(2, parts.length - 1), 'UV');
				if (parts.length === 2) uvs.push(0);
				break;
			case 'vn':
				numbers(normals, 3, 'normal');
				break;
			case 'f': {
				if (parts.length < 4)
					throw new NodeError(
						`${name}, line ${formatCount(line)}: a face needs three points or more; it has ${parts.length - 1}.`
					);
				for (let k = 1; k < parts.length; k++) {
					pollAt(k);
					const [p, t, n] = parts[k].split('/');
					corners.push(indexOf(p, positions.length / 3, 'point', line, name));
					cornerUv.push(t ? indexOf(t, uvs.length / 2, 'UV', line, name) : -1);
					cornerNormal.push(n ? indexOf(n, normals.length / 3, 'normal', line, name) : -1);
				}
				starts.push(corners.length);
				materialOf.push(material);
				lines.push(line);
				break;
			}
			case 'usemtl': {
				const key = parts.slice(1).join(' ');
				material = places.get(key) ?? -1;
				if (material < 0 && key && key !== NO_MATERIAL) {
					material =
						materials.push({
							name: key.slice(0, 200) || 'Material',
							colour: [0.6, 0.6, 0.6, 1],
							roughness: 0.8,
							metallic: 0,
							twoSided: false
						}) - 1;
					places.set(key, material);
					keys.push(key);
				}
				break;
			}
			case 'mtllib':
				namesLibrary = parts.slice(1).join(' ');
				break;
			case 'newmtl':
				library.set(parts.slice(1).join(' '), (described = {}));
				break;
			case 'Kd':
			case 'd':
			case 'Tr':
			case 'Ns':
			case 'Pr':
			case 'Pm':
			case 'map_Kd':
				if (described) described[parts[0]] = parts.slice(1, 4).map(Number);
				break;
			case 'l':
			case 'p':
			case 'curv':
			case 'surf':
				ignored++;
		}
	}
	const geometry = geometryFrom(
		{
			name,
			positions: positions.done(),
			starts: starts.done(),
			corners: corners.done(),
			uvs: gather(cornerUv.done(), uvs.data, 2),
			normals: gather(cornerNormal.done(), normals.data, 3),
			materialOf: materialOf.done(),
			materials: materials.map((one, m) => asDescribed(one, library.get(keys[m])))
		},
		(face) => `line ${formatCount(lines.data[face])}`
	);
	const warnings: string[] = [];
	if (ignored)
		warnings.push(`${formatCount(ignored)} lines or points of the file are no faces and were left out.`);
	if (materials.length && !library.size)
		warnings.push(
			`Its materials have names only${namesLibrary && `: what they look like stands in ${namesLibrary.slice(0, 80)}`}. Drop the OBJ and its MTL together, or a ZIP of both.`
		);
	if ([...library.values()].some(({ map_Kd }) => map_Kd))
		warnings.push('Pictures on materials are not read yet; the plain colours are kept.');
	return { geometry, warnings };
}

/** What an MTL says of a material, by its own names. */
type Described = Partial<Record<'Kd' | 'd' | 'Tr' | 'Ns' | 'Pr' | 'Pm' | 'map_Kd', number[]>>;

/** A material as an MTL describes it; what that leaves open is as usual. */
function asDescribed(material: Material, said: Described | undefined): Material {
	if (!said) return material;
	const share = (x: number | undefined): number | undefined =>
		x !== undefined && Number.isFinite(x) ? Math.max(0, Math.min(1, x)) : undefined;
	const [r, g, b] = [0, 1, 2].map((k) => share(said.Kd?.[k]));
	const clear = share(said.Tr?.[0]);
	// Roughness as it is, or else from the exponent of a highlight (Blinn): the sharper, the smoother.
	const exponent = said.Ns?.[0];
	const shine = exponent !== undefined && exponent >= 0 ? Math.sqrt(2 / (exponent + 2)) : undefined;
	return {
		...material,
		colour: [
			r ?? material.colour[0],
			g ?? material.colour[1],
			b ?? material.colour[2],
			share(said.d?.[0]) ?? (clear === undefined ? 1 : 1 - clear)
		],
		roughness: share(said.Pr?.[0]) ?? share(shine) ?? material.roughness,
		metallic: share(said.Pm?.[0]) ?? material.metallic
	};
}

function indexOf(written: string, count: number, what: string, line: number, name: string): number {
	const x = Number(written);
	if (!Number.isInteger(x) || x === 0)
		throw new NodeError(
			`${name}, line ${formatCount(line)}: “${written.slice(0, 30)}” is not the number of a ${what}.`
		);
	const index = x > 0 ? x - 1 : count + x;
	if (index < 0 || (x < 0 && index >= count))
		throw new NodeError(`${name}, line ${formatCount(line)}: a face names ${what} ${x}, which is not there.`);
	// A point may stand further down in the file; what is missing in the end is found by the check of all faces.
	if (index >= count && what !== 'point')
		throw new NodeError(
			`${name}, line ${formatCount(line)}: a face names ${what} ${x}, but there are only ${formatCount(count)}.`
		);
	return index;
}

/** Values of corners by their indices; null where no corner has one. */
function gather(indices: Int32Array, values: Float32Array, width: number): Float32Array | null {
	if (!indices.some((i) => i >= 0)) return null;
	const out = new Float32Array(indices.length * width);
	for (let i = 0; i < indices.length; i++) {
		pollAt(i);
		if (indices[i] >= 0) for (let k = 0; k < width; k++) out[i * width + k] = values[indices[i] * width + k];
	}
	return out;
}

/** What faces without a material say where others before them had one. */
const NO_MATERIAL = 'none';

/** Writes a geometry, copies as real faces, with its materials in an MTL. Curves become lines, points become points. */
export function writeObj(geometry: Geometry, mtlName: string): { obj: string; mtl: string } {
	const out: string[] = [`mtllib ${mtlName}`];
	const materials = new Map<string, string>();
	let points = 1,
		uvs = 1,
		normals = 1;
	const nameOf = (m: Material): string => {
		const key = JSON.stringify(m);
		let found = materials.get(key);
		if (!found) {
			const name = m.name.replace(/\s+/g, '_');
			const base = name && name !== NO_MATERIAL ? name : 'Material';
			found = base;
			for (let n = 2; [...materials.values()].includes(found); n++) found = `${base}_${n}`;
			materials.set(key, found);
		}
		return found;
	};
	let isBareSomewhere = false;
	/** The name that was written last: it holds for all faces that follow, of other objects too. */
	let current = '';
	// Nine digits give each 32-bit number back as it was; some readers know no exponents.
	const v = (x: number) =>
		Math.abs(x) >= 1e-6
			? Number(x.toPrecision(9)).toString()
			: x.toFixed(15).replace(/^-?0\.?0*$|\.?0+$/, '') || '0';
	expand(geometry).forEach(({ geometry: part, matrices, count }, group) => {
		const { mesh, curves, points: loose } = part;
		for (let i = 0; i < count; i++) {
			pollAt(i);
			const m = matrices ? affineAt(matrices, i) : matrix.identity();
			const mirrored = matrix.determinant(m) < 0;
			out.push(`o part_${group + 1}_${i + 1}`);
			const place = [0, 0, 0];
			const writePoints = (p: Float32Array) => {
				for (let k = 0; k < p.length; k += 3) {
					pollAt(k);
					matrix.apply(place, 0, m, p[k], p[k + 1], p[k + 2]);
					out.push(`v ${v(place[0])} ${v(place[1])} ${v(place[2])}`);
				}
			};
			if (mesh) {
				writePoints(floats(mesh.points, 'position'));
				const uv = mesh.corners.columns.get('uv')?.data;
				if (uv) for (let c = 0; c < uv.length; c += 2) out.push(`vt ${v(uv[c])} ${v(uv[c + 1])}`);
				// The same normal stands once: most corners share theirs.
				const rows = normalRows(mesh, m);
				for (const row of rows.lines) out.push(row);
				const material = mesh.faces.columns.get('material')?.data;
				const shown = mesh.faces.columns.get('shown')?.data;
				const { faceStarts, cornerPoints } = mesh.topology;
				for (let f = 0; f + 1 < faceStarts.length; f++) {
					if (shown && !shown[f]) continue;
					const own = material ? material[f] : part.materials.length ? 0 : -1;
					const isBare = !part.materials[own];
					// Said before the first face too: some readers give those the first material that comes.
					const bare = current || part.materials.length ? NO_MATERIAL : '';
					const name = isBare ? bare : nameOf(part.materials[own]);
					if (name === NO_MATERIAL) isBareSomewhere = true;
					if (name !== current) out.push(`usemtl ${name}`);
					current = name;
					const face: string[] = [];
					for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++)
						face.push(`${points + cornerPoints[c]}/${uv ? uvs + c : ''}/${normals + rows.of[c]}`);
					out.push(`f ${(mirrored ? face.reverse() : face).join(' ')}`);
				}
				points += mesh.points.count;
				normals += rows.lines.length;
				if (uv) uvs += uv.length / 2;
			}
			if (curves) {
				writePoints(floats(curves.points, 'position'));
				const closed = curves.curves.columns.get('closed')!.data;
				for (let c = 0; c + 1 < curves.starts.length; c++) {
					const row = [];
					for (let k = curves.starts[c]; k < curves.starts[c + 1]; k++) row.push(points + k);
					if (closed[c] && row.length) row.push(row[0]);
					if (row.length > 1) out.push(`l ${row.join(' ')}`);
				}
				points += curves.points.count;
			}
			if (loose) {
				writePoints(floats(loose.points, 'position'));
				for (let k = 0; k < loose.points.count; k++) out.push(`p ${points + k}`);
				points += loose.points.count;
			}
		}
	});
	const mtl: string[] = isBareSomewhere ? [`newmtl ${NO_MATERIAL}`, 'Kd 0.8 0.8 0.8', ''] : [];
	for (const [key, name] of materials) {
		const m = JSON.parse(key) as Material;
		mtl.push(
			`newmtl ${name}`,
			`Kd ${m.colour
				.slice(0, 3)
				.map((c) => v(c))
				.join(' ')}`,
			`Pr ${v(m.roughness)}`,
			`Pm ${v(m.metallic)}`,
			`d ${v(m.colour[3])}`,
			''
		);
	}
	return { obj: out.join('\n') + '\n', mtl: mtl.join('\n') };
}

/** The normals of a mesh's corners where it stands, as lines, each once, and which of them each corner has. */
function normalRows(mesh: Mesh, place: Affine): { lines: string[]; of: Uint32Array } {
	const own = cornerNormals(mesh);
	const map = matrix.cofactors(place);
	// A mirrored copy has its faces turned round, and so its normals.
	const sign = matrix.determinant(place) < 0 ? -1 : 1;
	const lines: string[] = [];
	const known = new Map<string, number>();
	const of = new Uint32Array(own.length / 3);
	for (let c = 0; c < of.length; c++) {
		pollAt(c);
		const n = [0, 1, 2].map(
			(k) => own[3 * c] * map[k] + own[3 * c + 1] * map[3 + k] + own[3 * c + 2] * map[6 + k]
		);
		const size = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
		const line = `vn ${n.map((x) => Number(((sign * x) / size).toFixed(6)) + 0).join(' ')}`;
		let row = known.get(line);
		if (row === undefined) {
			row = lines.push(line) - 1;
			known.set(line, row);
		}
		of[c] = row;
	}
	return { lines, of };
}
