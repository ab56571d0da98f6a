/** A section carried along curves. At bends it is widened across the bend, so that its sides keep their distance. */
import { allocate, curveCount, pollAt, positionsOf } from '../geometry/index.ts';
import type { Curves, Mesh } from '../geometry/index.ts';
import { cos, quaternion, sin } from '../math/index.ts';
import type { Frames } from './frames.ts';
import { lengthsOfSection } from './section.ts';
import { bendAt } from './mitre.ts';
import { skin } from './skin.ts';
import type { Section } from './section.ts';

export interface SweepOptions {
	/** Sections with as many points as one another, all open or all closed. */
	sections: readonly Section[];
	/** For each point of the curves: which section, from 0 to the last; between two of them they blend. */
	blend: Float32Array;
	/** For each point: size, rotation in degrees about the path, and a step sideways and upward in metres. */
	scale: Float32Array;
	turn: Float32Array;
	offset: Float32Array | null;
	caps: boolean;
	/** The most that a bend widens the section, in times. */
	mitre: number;
	/** Metres along the path at each point, for UVs; left out, they are measured. */
	along?: Float64Array;
	/** How often a texture repeats in a metre, for each curve; left out, once. */
	repeat?: ArrayLike<number> | null;
}

/** Outward faces where the section is closed; UVs in metres: around the section, and along the path. */
export function sweep(curves: Curves, frames: Frames, options: SweepOptions): Mesh {
	const { sections, caps } = options;
	const around = sections[0].points.length / 2;
	const closedSection = sections[0].closed;
	const p = positionsOf(curves);
	const positions = allocate('float', (p.length / 3) * around * 3);
	placeSections(positions, curves, frames, options);
	const { along: u, whole } = lengthsOfSection(sections[0]);
	const flat = sections[0].points;
	return skin(curves, positions, {
		around,
		closed: closedSection,
		caps,
		along: options.along,
		repeat: options.repeat,
		u: (_, s) => (s < around ? u[s] : whole),
		cap(_, isLast, s) {
			const i = isLast ? (around - s) % around : s;
			return [isLast ? -flat[2 * i] : flat[2 * i], flat[2 * i + 1]];
		}
	});
}

function placeSections(
	out: Float32Array,
	curves: Curves,
	{ tangents, normals }: Frames,
	options: SweepOptions
): void {
	const { sections, blend, scale, turn, offset, mitre } = options;
	const p = positionsOf(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const around = sections[0].points.length / 2;
	for (let c = 0, o = 0; c < curveCount(curves); c++) {
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		for (let i = first; i <= last; i++) {
			pollAt(i);
			const t = 3 * i;
			const [nx, ny, nz] = [normals[t], normals[t + 1], normals[t + 2]];
			// Sideways is to the right of someone who walks along the path, so that sections keep their sense of rotation.
			const bx = ny * tangents[t + 2] - nz * tangents[t + 1],
				by = nz * tangents[t] - nx * tangents[t + 2],
				bz = nx * tangents[t + 1] - ny * tangents[t];
			const [wx, wy, wz, widen] = bendAt(p, i, first, last, !!closed[c], mitre);
			const place = Math.max(0, Math.min(sections.length - 1, blend[i]));
			const one = Math.min(sections.length - 1, Math.floor(place)),
				two = Math.min(sections.length - 1, one + 1),
				share = place - one;
			const a = sections[one].points,
				b = sections[two].points;
			const angle = Math.fround(quaternion.radians(turn[i]));
			const ct = cos(angle) * scale[i],
				st = sin(angle) * scale[i];
			for (let s = 0; s < around; s++, o += 3) {
				const fx = a[2 * s] + (b[2 * s] - a[2 * s]) * share,
					fy = a[2 * s + 1] + (b[2 * s + 1] - a[2 * s + 1]) * share;
				const x = fx * ct - fy * st + (offset ? offset[3 * i] : 0),
					y = fx * st + fy * ct + (offset ? offset[3 * i + 1] : 0);
				// Side first, negated: the face of the section looks along the path.
				let dx = x * -bx + y * nx,
					dy = x * -by + y * ny,
					dz = x * -bz + y * nz;
				if (widen > 0) {
					const across = (dx * wx + dy * wy + dz * wz) * widen;
					dx += wx * across;
					dy += wy * across;
					dz += wz * across;
				}
				out[o] = p[t] + dx;
				out[o + 1] = p[t + 1] + dy;
				out[o + 2] = p[t + 2] + dz;
			}
		}
	}
}
