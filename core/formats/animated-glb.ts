/**
 * A GLB that moves: each copy is a node with tracks of its place, rotation and scale, keyed only where it changes, and a
 * shape that bends has a morph target for each of its states. Frames are added one after another; what is not shown at a
 * frame has the scale 0 there.
 */
import { NodeError, formatCount } from '../math/index.ts';
import type { Geometry, Instances } from '../geometry/index.ts';
import { floats, idsOf, pollAt, shears } from '../geometry/index.ts';
import type { CameraShot } from './camera-shot.ts';
import { addCamera, turnOf } from './camera-shot.ts';
import { GlbFile } from './glb-file.ts';
import type { Json } from './glb-file.ts';
import { GlbMeshes, unitised } from './glb-meshes.ts';
import type { AttributeNames } from './glb-meshes.ts';
import { Shapes } from './glb-shapes.ts';
import type { RigidPart } from './rigid-parts.ts';
import { Track } from './glb-track.ts';

export interface AnimatedOptions {
	/** Seconds from one frame to the next. */
	step: number;
	/** How many frames will come. */
	frames: number;
	attributes?: AttributeNames;
	name?: string;
	/** What was made, as its node is called: the objects bear that name. */
	object?: string;
}

/** More nodes than this make readers slow; so do more frames of them. */
const MOST_NODES = 20_000;
const MOST_PLACES = 5_000_000;
const WAYS_OUT =
	'Write fewer frames, make one mesh of the copies with “Copies to mesh”, or write a file for each frame.';

export class AnimatedGlb {
	readonly #options: AnimatedOptions;
	readonly #file = new GlbFile();
	readonly #meshes: GlbMeshes;
	/** What is there beside copies, and what is copied, by their places among the sources. */
	readonly #own = new Shapes('The geometry');
	readonly #sources: Shapes[] = [];
	readonly #tracks = new Map<string, Track>();
	/** Cameras by name, each as it was first seen. */
	readonly #cameras = new Map<string, { shot: CameraShot; track: Track }>();
	#frame = 0;
	readonly #waiting: { node: number; path: string; keys: Keys }[] = [];
	readonly #inputs = new Map<string, number>();

	constructor(options: AnimatedOptions) {
		this.#options = options;
		this.#meshes = new GlbMeshes(this.#file, options.attributes, this.#objectName);
	}

	get #objectName(): string {
		return this.#options.object || this.#options.name || 'Geometry';
	}

	/** Adds the next frame, with what cameras see then. Throws NodeError where a GLB cannot follow it. */
	add(geometry: Geometry, cameras: readonly CameraShot[] = []): void {
		this.#own.add({ ...geometry, copies: null }, this.#frame);
		if (geometry.copies) this.#addCopies(geometry.copies);
		for (const shot of cameras) {
			let own = this.#cameras.get(shot.name);
			if (!own) this.#cameras.set(shot.name, (own = { shot, track: new Track(0, this.#options.frames) }));
			const one = (of: readonly number[]) => Float32Array.from(of);
			own.track.set(this.#frame, 0, one(shot.position), one(turnOf(shot)), one([1, 1, 1]));
		}
		this.#frame++;
	}

	#addCopies({ copies, sources }: Instances): void {
		if (shears(copies))
			throw new NodeError(
				'Some copies shear, which a place, a rotation and a scale cannot say. Make one mesh of them with “Copies to mesh”, or write a file for each frame.'
			);
		sources.forEach((source, s) => {
			this.#sources[s] ??= new Shapes(`What is copied, number ${s + 1},`);
			this.#sources[s].add(source, this.#frame);
		});
		const ids = idsOf(copies);
		const from = copies.columns.get('source')!.data,
			shown = copies.columns.get('shown')?.data;
		const [position, orientation, scale] = [
			floats(copies, 'position'),
			unitised(floats(copies, 'orientation'), 4),
			floats(copies, 'scale')
		];
		const { frames } = this.#options;
		for (let i = 0; i < copies.count; i++) {
			pollAt(i);
			if (shown && !shown[i]) continue;
			const track = this.#trackOf(`${from[i]} ${ids[2 * i]} ${ids[2 * i + 1]}`, from[i], frames);
			track.set(this.#frame, i, position, orientation, scale);
		}
	}

	/** The track of a copy; copies of one id are told apart by their order. */
	#trackOf(key: string, source: number, frames: number): Track {
		for (let nth = 0; ; nth++) {
			const name = nth ? `${key} ${nth}` : key;
			let track = this.#tracks.get(name);
			if (track?.has(this.#frame)) continue;
			if (!track) {
				const count = this.#tracks.size + 1;
				if (count > MOST_NODES)
					throw new NodeError(
						`More than ${formatCount(MOST_NODES)} copies move; so many nodes of a GLB no reader follows. ${WAYS_OUT}`
					);
				if (count * frames > MOST_PLACES)
					throw new NodeError(
						`${formatCount(count)} copies over ${formatCount(frames)} frames are more than ${formatCount(MOST_PLACES)} places, which fit. ${WAYS_OUT}`
					);
				this.#tracks.set(name, (track = new Track(source, frames)));
			}
			return track;
		}
	}

	/** The file. Throws NodeError where it is too large for the format. */
	bytes(): Uint8Array {
		const { name = 'Embrell' } = this.#options;
		const roots: number[] = [];
		const own = this.#shaped(this.#own, { name: this.#objectName });
		if (own !== null) roots.push(own);
		let nth = 0;
		for (const track of this.#tracks.values()) {
			pollAt(nth++);
			const node = this.#copy(track, nth);
			if (node !== null) roots.push(node);
		}
		for (const { shot, track } of this.#cameras.values()) {
			const node = addCamera(this.#file, shot);
			roots.push(node);
			// What sees nothing at a frame stays where it was.
			for (const { path, ...keys } of track.channels(this.#frame))
				if (path !== 'scale') this.#channel(node, path, keys);
		}
		return this.#file.bytes({
			asset: { version: '2.0', generator: 'Embrell' },
			scene: 0,
			scenes: [{ name, ...(roots.length && { nodes: roots }) }],
			...this.#animation(name)
		});
	}

	/** A node with a mesh in all its shapes; null where there is nothing. */
	#shaped(shapes: Shapes, more: Json): number | null {
		const first = shapes.list.at(0);
		if (!first) return null;
		const [only, ...others] = shapes.parts;
		const copies = first.copies ? this.#stillCopies(first.copies) : [];
		if (others.length || only.poses) {
			const parts = shapes.parts.flatMap((part, k) => this.#part(shapes, part, k + 1) ?? []);
			const children = [...parts, ...copies];
			return children.length ? this.#file.node({ ...more, children }) : null;
		}
		const mesh = this.#meshes.mesh(first, only.states.slice(1));
		if (mesh === null && !copies.length) return null;
		const node = this.#file.node({
			...more,
			...(mesh !== null && { mesh }),
			...(copies.length && { children: copies })
		});
		if (only.states.length > 1) this.#morph(node, shapes);
		return node;
	}

	/** A part of a shape: a node that moves, stands still, or bends. */
	#part(shapes: Shapes, { states, poses }: RigidPart, nth: number): number | null {
		const mesh = this.#meshes.mesh(states[0], states.slice(1));
		if (mesh === null) return null;
		const node = this.#file.node({ name: `${this.#objectName} part ${nth}`, mesh });
		if (states.length > 1) this.#morph(node, shapes);
		if (!poses) return node;
		const track = new Track(0, this.#frame);
		for (let frame = 0; frame < this.#frame; frame++) {
			const { position, orientation, scale } = poses[shapes.at(frame)];
			const one = (of: readonly number[]) => Float32Array.from(of);
			track.set(frame, 0, one(position), one(orientation), one([scale, scale, scale]));
		}
		Object.assign(this.#file.lists.nodes[node], track.at(0));
		for (const { path, ...keys } of track.channels(this.#frame)) this.#channel(node, path, keys);
		return node;
	}

	/** Copies within what is copied: they go with it. */
	#stillCopies({ copies, sources }: Instances): number[] {
		const shapes = sources.map((source) => Shapes.of(source));
		const [position, orientation, scale] = [
			floats(copies, 'position'),
			unitised(floats(copies, 'orientation'), 4),
			floats(copies, 'scale')
		];
		const from = copies.columns.get('source')!.data,
			shown = copies.columns.get('shown')?.data;
		if (this.#file.lists.nodes.length + copies.count > MOST_NODES)
			throw new NodeError(
				`With the copies in copies there are more than ${formatCount(MOST_NODES)} nodes; so many no reader follows. ${WAYS_OUT}`
			);
		const nodes: number[] = [];
		for (let i = 0; i < copies.count; i++) {
			if (shown && !shown[i]) continue;
			const place = {
				translation: [...position.subarray(3 * i, 3 * i + 3)],
				rotation: [...orientation.subarray(4 * i, 4 * i + 4)],
				scale: [...scale.subarray(3 * i, 3 * i + 3)]
			};
			const node = this.#shaped(shapes[from[i]], place);
			if (node !== null) nodes.push(node);
		}
		return nodes;
	}

	#copy(track: Track, nth: number): number | null {
		const node = this.#shaped(this.#sources[track.source], {
			name: `${this.#objectName} copy ${nth}`,
			...track.at(0)
		});
		if (node === null) return null;
		for (const { path, ...keys } of track.channels(this.#frame)) this.#channel(node, path, keys);
		return node;
	}

	/** One weight is 1 at each frame; from one frame to the next a shape goes straight into the other. */
	#morph(node: number, shapes: Shapes): void {
		const width = shapes.list.length - 1;
		const frames = Array.from({ length: this.#frame }, (_, frame) => frame).filter(
			(frame) => !(shapes.at(frame) === shapes.at(frame - 1) && shapes.at(frame) === shapes.at(frame + 1))
		);
		const values = new Float32Array(width * frames.length);
		frames.forEach((frame, k) => {
			const shape = shapes.at(frame);
			if (shape > 0) values[width * k + shape - 1] = 1;
		});
		this.#channel(node, 'weights', { frames, values, width: 1, held: false });
	}

	#channel(node: number, path: string, keys: Keys): void {
		this.#waiting.push({ node, path, keys });
	}

	/** Writes the channels. The longest lasts as long as all frames, so that the animation does, whenever it comes to rest. */
	#animation(name: string): Json {
		const last = this.#frame - 1;
		const lasts = this.#waiting.some(({ keys }) => keys.frames.at(-1) === last);
		const samplers: Json[] = [];
		const channels = this.#waiting.map(({ node, path, keys }, i) => {
			const { frames, values, width, held } = lasts || i > 0 ? keys : heldUntil(keys, last);
			samplers.push({
				input: this.#input(frames),
				output: this.#file.accessor(values, width === 1 ? 'SCALAR' : `VEC${width}`),
				interpolation: held ? 'STEP' : 'LINEAR'
			});
			return { sampler: i, target: { node, path } };
		});
		return channels.length ? { animations: [{ name, samplers, channels }] } : {};
	}

	/** The seconds of some frames; tracks with keys at the same ones share them. */
	#input(frames: readonly number[]): number {
		const key = frames.join(' ');
		let input = this.#inputs.get(key);
		if (input === undefined) {
			const seconds = Float32Array.from(frames, (frame) => notAfter(frame * this.#options.step));
			input = this.#file.accessor(seconds, 'SCALAR', undefined, {
				min: [seconds[0]],
				max: [seconds[seconds.length - 1]]
			});
			this.#inputs.set(key, input);
		}
		return input;
	}
}

/** Keys of a channel, with as many numbers for each as its values hold. */
interface Keys {
	frames: readonly number[];
	values: Float32Array;
	width: 1 | 3 | 4;
	held: boolean;
}

/** Keys with one more at a later frame, where it is as at the last of them. */
function heldUntil({ frames, values, ...rest }: Keys, frame: number): Keys {
	const each = values.length / frames.length;
	const longer = new Float32Array(values.length + each);
	longer.set(values);
	longer.set(values.subarray(values.length - each), values.length);
	return { ...rest, frames: [...frames, frame], values: longer };
}

/** The greatest float that is not after a number: a reader that asks for a frame's time finds what jumps then. */
function notAfter(seconds: number): number {
	const near = Math.fround(seconds);
	if (near <= seconds) return near;
	const word = new Uint32Array(Float32Array.of(near).buffer);
	word[0]--;
	return new Float32Array(word.buffer)[0];
}
