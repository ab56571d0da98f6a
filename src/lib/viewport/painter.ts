/**
 * Paints the View. While something moves: one plain picture at once, of a share of the copies where all would take too long.
 * When it rests: all of them, in pieces; then many pictures with the camera moved within the pixel, the sun over its disc
 * and one piece of the sky after another, whose mean has smooth edges, soft shadows and soft light from the sky.
 */
import * as THREE from 'three';
import type { Bounds } from '$core/geometry/measure';
import type { Content, Part } from './content';
import type { ShadowCatcher } from './ground';
import { Lamps } from './lamps';
import type { Light, Way } from './light';
import { FEW_SAMPLES, SAMPLES, jitterOf, sunWay } from './light';
import type { Load } from './pace';
import { PIECE, Pace, drawnOf, runsOf } from './pace';
import type { Frame } from './plates';
import { Plates, pictureTarget } from './plates';
import { Screen } from './screen';
import { ShadowMap } from './shadow';
import type { LightUniforms } from './surface';
import type { Job } from './turns';
import { Turns } from './turns';

/** After so many milliseconds without a change the picture is refined. */
const RESTS = 200;
/** What is expected is waited for at most so many milliseconds. */
const EXPECTS = 1500;
/** The mean of fewer pictures would be coarser than the plain one. */
const FIRST_SHOWN = 12;
/** While copies are added to a plain picture it is shown after so many pieces. */
const SHOWN_EVERY = 12;
/** Where a picture takes longer than so many milliseconds, fewer are gathered. */
const SLOW = 120;
/** The shadow map's side: a processor that draws takes the smaller one. */
const SHADOW_SIZE = { software: 1024, card: 2048 };

export type Camera = THREE.PerspectiveCamera | THREE.OrthographicCamera;

/** The grid's edges are made smooth by the mean of so many pictures. */
const GROUND_SAMPLES = 6;

/** What the painter paints. */
export interface Stage {
	scene: THREE.Scene;
	content: Content;
	/** What lies under everything, without light or shadow. */
	ground: THREE.Scene;
	catcher: ShadowCatcher;
	/** Drawn last, over all else. */
	overlay: THREE.Object3D;
	/** Drawn over the finished picture, neither gathered nor saved. */
	handles: THREE.Scene;
	camera(): Camera;
}

export class Painter {
	readonly pace: Pace;
	readonly turns: Turns;
	readonly #renderer: THREE.WebGLRenderer;
	readonly #stage: Stage;
	readonly #light: LightUniforms;
	/** The sun’s shadow in plain pictures, kept while only the camera moves; and that of each gathered one. */
	readonly #sunShadow: ShadowMap;
	readonly #sampleShadow: ShadowMap;
	/** The plain picture; it stands on the screen while others are gathered on plates of their own. */
	readonly #plainPlate: THREE.WebGLRenderTarget;
	readonly #plates = new Plates(1, 1);
	/** The ground alone; see `means` of plates. */
	readonly #grounds: readonly THREE.WebGLRenderTarget[];
	#ground: THREE.WebGLRenderTarget | null = null;
	readonly #screen: Screen;
	readonly #lamps: Lamps;
	#bounds: Bounds | null = null;
	#size = { width: 1, height: 1 };
	#frame = 0;
	#again = 0;
	#rest: ReturnType<typeof setTimeout> | undefined;
	#expecting: ReturnType<typeof setTimeout> | undefined;
	#gathering: Job | null = null;
	/** What the sun’s shadow map holds: the shadow of one in so many copies; 0 where it is out of date. */
	#shadowOf = 0;
	/** The plate whose picture is shown. */
	#shown: THREE.WebGLRenderTarget | null = null;
	#oneIn = 1;
	/** Of gathered pictures: one in so many copies is drawn. Small pictures of many copies need not all of them. */
	sampled = 1;
	#closed = false;
	/** Counts up with each plain picture. */
	pictures = 0;
	/** Counts up whenever what is drawn, or its light, is another. */
	changes = 0;
	/** How many pictures the mean on the screen is of; 0 while a plain one stands there. */
	gathered = 0;
	/** Counts up with each of the gathered pictures that is begun, for whoever was drawing another one. */
	#drawings = 0;
	onPicture: () => void = () => {};
	/** Called when the card has drawn a plain picture. */
	onDrawn: () => void = () => {};
	/** Called with the share of copies that is drawn: one in so many. */
	onShare: (oneIn: number) => void = () => {};

	constructor(renderer: THREE.WebGLRenderer, stage: Stage, light: LightUniforms, software: boolean) {
		this.#renderer = renderer;
		this.#stage = stage;
		this.#light = light;
		this.#lamps = new Lamps(light);
		this.#screen = new Screen(renderer);
		this.pace = new Pace(software ? 1 : 0.05);
		this.turns = new Turns(renderer.getContext() as WebGL2RenderingContext, this.pace);
		const side = SHADOW_SIZE[software ? 'software' : 'card'];
		this.#sunShadow = new ShadowMap(side);
		this.#sampleShadow = new ShadowMap(side);
		// A map must be there even where none is asked for.
		for (const { target } of [this.#sunShadow, this.#sampleShadow]) renderer.initRenderTarget(target);
		this.#sunShadow.use(light);
		this.#plainPlate = pictureTarget(1, 1, !software);
		this.#grounds = [0, 1].map(
			() => new THREE.WebGLRenderTarget(1, 1, { type: THREE.HalfFloatType, depthBuffer: false })
		);
		renderer.autoClear = false;
		renderer.setClearColor(0x000000, 0);
	}

	resize(width: number, height: number): void {
		this.#size = { width, height };
		this.#renderer.setPixelRatio(1);
		this.#renderer.setSize(width, height, false);
		this.#plainPlate.setSize(width, height);
		this.#plates.setSize(width, height);
		for (const one of this.#grounds) one.setSize(width, height);
		this.#shown = null;
		this.moved();
	}

	set light(light: Light) {
		this.#lamps.wanted = light;
		this.#stage.catcher.visible = light.shadow;
		this.#light.exposure.value = 2 ** light.exposure;
		this.#layCatcher();
		this.changed();
	}

	/** Something will stand there soon: an empty picture would only make it later. */
	expectContent(): void {
		clearTimeout(this.#expecting);
		this.#expecting = setTimeout(() => {
			this.#expecting = undefined;
			this.redraw();
		}, EXPECTS);
	}

	/** What stands there is another: its shadow too. */
	contentIs(bounds: Bounds | null): void {
		clearTimeout(this.#expecting);
		this.#expecting = undefined;
		this.#bounds = bounds;
		this.#layCatcher();
		this.changed();
	}

	#layCatcher(): void {
		if (this.#bounds) this.#stage.catcher.lieUnder(this.#bounds, sunWay(this.#lamps.wanted));
	}

	/** What all that is shown lies in. */
	get bounds(): Bounds | null {
		return this.#bounds;
	}

	changed(): void {
		this.changes++;
		// Whoever was drawing what stood there begins that picture again.
		this.#drawings++;
		this.#shadowOf = 0;
		this.redraw();
	}

	/** The camera moved, or the ground looks otherwise. */
	moved(): void {
		this.#ground = null;
		this.redraw();
	}

	/** Draws a plain picture at the next frame; many calls make one. What was gathered is out of date. */
	redraw(): void {
		clearTimeout(this.#rest);
		this.#stopGathering();
		if (this.#closed || this.#expecting !== undefined) return;
		this.turns.held = true;
		this.#frame ||= requestAnimationFrame(this.#plain);
	}

	/** Shows the same picture again, where only the handles over it have changed. */
	present(): void {
		if (this.#shown && !this.#frame) this.#present(this.#shown);
		else if (!this.#shown) this.redraw();
	}

	/** The same at the next frame: never while whoever asks for it is being worked out. */
	presentSoon(): void {
		this.#again ||= requestAnimationFrame(() => {
			this.#again = 0;
			if (!this.#closed) this.present();
		});
	}

	/** Whether the picture on the screen is as fine as it gets. */
	refined = false;
	/** Whether it is refined when it rests: on a slow machine an artist may want it plain. */
	#refines = true;
	get refines(): boolean {
		return this.#refines;
	}
	set refines(wanted: boolean) {
		if (this.#refines === wanted) return;
		this.#refines = wanted;
		this.redraw();
	}

	/** How many pictures a mean is made of: fewer, where each takes long. */
	get samples(): number {
		const triangles = 2 * sum(this.#stage.content.parts, trianglesOf);
		const pixels = this.#size.width * this.#size.height;
		return this.pace.expect({ triangles, pixels }) > SLOW ? FEW_SAMPLES : SAMPLES;
	}

	#stopGathering(): void {
		if (this.#gathering) this.turns.drop(this.#gathering);
		this.#gathering = null;
		this.gathered = 0;
		this.refined = false;
	}

	readonly #plain = (): void => {
		this.#frame = 0;
		if (this.#closed || this.#renderer.getContext().isContextLost()) return;
		// The card has not done with the last piece: a picture more would only make the next one later.
		if (this.turns.busy) {
			this.#frame = requestAnimationFrame(this.#plain);
			return;
		}
		const { parts } = this.#stage.content;
		const pixels = this.#size.width * this.#size.height;
		const copied = parts.filter((part) => part.copies).reduce((sum, part) => sum + part.triangles, 0);
		const fixed = parts.filter((part) => !part.copies).reduce((sum, part) => sum + part.triangles, 0);
		// A shadow that is out of date is drawn from as many triangles again.
		const twice = this.#shadowOf === 0 && this.#lamps.wanted.shadow ? 2 : 1;
		const wanted = this.pace.oneIn(fixed * twice, copied * twice, pixels);
		const isAll = parts.every(({ copies }) => !copies || drawnOf(copies.of, wanted) === copies.of);
		const oneIn = isAll ? 1 : wanted;
		const load: Load = { triangles: fixed + copied / oneIn, pixels };
		this.#take(parts, oneIn);
		if (this.#lamps.wanted.shadow && this.#shadowOf !== oneIn) {
			load.triangles *= 2;
			this.#sunShadow.aim(sunWay(this.#lamps.wanted), this.#around());
			this.#drawShadow(this.#sunShadow, parts, true);
			this.#shadowOf = oneIn;
		}
		if (!this.#ground) this.#drawGround((this.#ground = this.#grounds[0]));
		this.#lamps.plainly();
		this.#sunShadow.use(this.#light);
		this.#drawPicture(this.#plainPlate, this.#whole(), { first: true, last: true });
		this.#present(this.#plainPlate);
		this.pictures++;
		if (oneIn !== this.#oneIn) this.onShare(oneIn);
		this.#oneIn = oneIn;
		this.turns.held = false;
		void this.turns.finished(load).then(() => this.onDrawn());
		this.#rest = setTimeout(() => this.#gather(), RESTS);
	};

	#gather(): void {
		if (this.#closed || !this.#stage.content.parts.length) return;
		this.#gathering = this.#whenAtRest();
		void this.turns.run(this.#gathering, 'seen');
	}

	/** All copies first, where only a share was drawn; then the many pictures. */
	*#whenAtRest(): Job {
		const plates = this.#plates;
		if (this.#oneIn > 1) yield* this.#theRest();
		if (!this.#refines) return;
		const samples = this.samples;
		const show = (count: number, mean: THREE.WebGLRenderTarget) => {
			this.gathered = count;
			// Not each of them is shown: the page would be composed anew as often.
			if (count >= FIRST_SHOWN && (count % 16 === 0 || count === FIRST_SHOWN)) this.#present(mean);
			if (count === FIRST_SHOWN) this.#smoothGround();
		};
		yield* this.gathering(plates, this.#stage.camera(), this.#whole(), show, samples);
		this.refined = true;
		this.onPicture();
	}

	/** The copies that the plain picture left out, drawn into it piece by piece; what is there is shown every now and then. */
	*#theRest(): Job {
		const { parts } = this.#stage.content;
		const left = parts.filter(
			({ late, copies }) => !late && copies && copies.from + copies.count > drawnOf(copies.of, this.#oneIn)
		);
		const target = this.#plainPlate;
		const draw = (run: readonly Part[], last: boolean) => {
			this.#lamps.plainly();
			this.#sunShadow.use(this.#light);
			this.#take(run, 1);
			this.#drawPicture(target, this.#whole(), { first: false, last });
		};
		const runs = runsOf(left, trianglesOf, this.pace.trianglesIn(PIECE, 0));
		for (const [i, run] of runs.entries()) {
			draw(run, false);
			if (i % SHOWN_EVERY === SHOWN_EVERY - 1) this.#present(target);
			yield { triangles: sum(run, trianglesOf), pixels: 0 };
		}
		// What lies over surfaces, over those that came late too.
		draw(
			parts.filter((part) => part.late),
			true
		);
		this.#oneIn = 1;
		this.onShare(1);
		this.#present(target);
	}

	/** The ground with smooth edges. */
	#smoothGround(): void {
		for (let i = 0; i < GROUND_SAMPLES; i++) {
			const [x, y] = jitterOf(i);
			this.#drawGround(this.#plates.one, x, y);
			this.#screen.add(this.#grounds[i % 2], this.#grounds[(i + 1) % 2], this.#plates.one, i);
			this.#ground = this.#grounds[i % 2];
		}
	}

	#drawGround(target: THREE.WebGLRenderTarget, x = 0, y = 0): void {
		const camera = this.#stage.camera();
		const { width, height } = this.#size;
		camera.setViewOffset(width, height, x, y, width, height);
		this.#renderer.setRenderTarget(target);
		this.#renderer.clear();
		this.#renderer.render(this.#stage.ground, camera);
		camera.clearViewOffset();
	}

	/** Gathers the pictures of a frame. `done` hears of each mean. */
	*gathering(
		plates: Plates,
		camera: Camera,
		frame: Frame,
		done: (count: number, mean: THREE.WebGLRenderTarget) => void,
		samples: number
	): Job {
		for (let i = 0; i < samples; i++) {
			const [jx, jy] = jitterOf(i);
			const moved = { ...frame, x: frame.x + jx, y: frame.y + jy };
			yield* this.#inPieces(plates.one, camera, moved, this.#sampleShadow, () =>
				this.#lamps.sample(i, samples)
			);
			const to = plates.means[i % 2];
			this.#screen.add(to, plates.means[(i + 1) % 2], plates.one, i);
			done(i + 1, to);
		}
	}

	/**
	 * Draws one of the gathered pictures and the shadow map for it, in pieces. Where another such picture was begun in between,
	 * it begins again, since that one took the shadow map.
	 */
	*#inPieces(
		target: THREE.WebGLRenderTarget,
		camera: Camera,
		frame: Frame,
		shadow: ShadowMap,
		light: () => Way
	): Job {
		for (let drawing = -1; drawing !== this.#drawings;) {
			drawing = ++this.#drawings;
			const way = light();
			let owed: Load = NOTHING;
			for (const [load, draw] of this.#pieces(target, camera, frame, shadow, way)) {
				const both = { triangles: owed.triangles + load.triangles, pixels: owed.pixels + load.pixels };
				if (owed !== NOTHING && both.triangles > this.pace.trianglesIn(PIECE, both.pixels)) {
					yield owed;
					if (drawing !== this.#drawings) break;
					owed = load;
				} else owed = both;
				light();
				shadow.use(this.#light);
				draw();
			}
			if (drawing === this.#drawings) yield owed;
		}
	}

	/** The pieces of a picture with its shadow map, each with what it costs. */
	#pieces(
		target: THREE.WebGLRenderTarget,
		camera: Camera,
		frame: Frame,
		shadow: ShadowMap,
		way: Way
	): [load: Load, draw: () => void][] {
		const { parts } = this.#stage.content;
		const pixels = frame.wide * frame.high;
		const fits = this.pace.trianglesIn(PIECE, 0);
		const casting = this.#light.shadowOn.value ? parts.filter((part) => part.casts) : [];
		if (casting.length) shadow.aim(way, this.#around());
		const late = parts.filter((part) => part.late);
		const runs = runsOf(
			parts.filter((part) => !part.late),
			trianglesOf,
			fits
		);
		if (late.length || !runs.length) runs.push(late);
		return [
			...runsOf(casting, trianglesOf, fits).map((run, i): [Load, () => void] => [
				{ triangles: sum(run, trianglesOf), pixels: 0 },
				() => {
					this.#take(run, this.sampled);
					this.#drawShadow(shadow, run, i === 0);
				}
			]),
			...runs.map((run, i): [Load, () => void] => [
				{ triangles: sum(run, trianglesOf), pixels: i === 0 ? pixels : 0 },
				() => {
					this.#take(run, this.sampled);
					this.#drawPicture(target, frame, { first: i === 0, last: i === runs.length - 1 }, camera);
				}
			])
		];
	}

	#around(): Bounds {
		return this.#bounds ?? { low: [-1, 0, -1], high: [1, 1, 1] };
	}

	#whole(): Frame {
		const { width, height } = this.#size;
		return { width, height, x: 0, y: 0, wide: width, high: height };
	}

	/** Shows these parts and no others, of copies one in so many. */
	#take(parts: readonly Part[], oneIn: number): void {
		for (const { object } of this.#stage.content.parts) object.visible = false;
		for (const { object, copies } of parts) {
			if (copies && object instanceof THREE.InstancedMesh) {
				const wanted = drawnOf(copies.of, oneIn) - copies.from;
				object.count = Math.max(0, Math.min(copies.count, wanted));
				object.visible = object.count > 0;
			} else object.visible = !copies || drawnOf(copies.of, oneIn) > copies.from;
		}
	}

	#drawShadow(shadow: ShadowMap, parts: readonly Part[], first: boolean): void {
		const { scene, catcher, overlay } = this.#stage;
		const seen = [catcher, overlay, ...parts.filter((part) => !part.casts).map((part) => part.object)].map(
			(one) => [one, one.visible] as const
		);
		for (const [one] of seen) one.visible = false;
		scene.overrideMaterial = shadow.material;
		this.#renderer.setRenderTarget(shadow.target);
		if (first) this.#renderer.clear();
		this.#renderer.render(scene, shadow.camera);
		scene.overrideMaterial = null;
		for (const [one, visible] of seen) one.visible = visible;
	}

	#drawPicture(
		target: THREE.WebGLRenderTarget,
		frame: Frame,
		{ first, last }: { first: boolean; last: boolean },
		camera = this.#stage.camera()
	): void {
		const { scene, catcher, overlay } = this.#stage;
		const seen = [...(first ? [] : [catcher]), ...(last ? [] : [overlay])].map(
			(one) => [one, one.visible] as const
		);
		for (const [one] of seen) one.visible = false;
		camera.setViewOffset(frame.width, frame.height, frame.x, frame.y, frame.wide, frame.high);
		this.#renderer.setRenderTarget(target);
		if (first) this.#renderer.clear();
		this.#renderer.render(scene, camera);
		camera.clearViewOffset();
		for (const [one, visible] of seen) one.visible = visible;
	}

	/** Brings a plate to the screen, and the handles over it. */
	#present(plate: THREE.WebGLRenderTarget): void {
		this.#shown = plate;
		this.#screen.show(plate, this.#ground, plate !== this.#plainPlate);
		this.#renderer.render(this.#stage.handles, this.#stage.camera());
		this.onPicture();
	}

	/** Draws what stands there once in every way that there is, so that all shaders are made before they are needed. */
	async warmUp(): Promise<void> {
		this.sleep();
		const { scene, camera } = this.#stage;
		this.#renderer.setRenderTarget(this.#plates.one);
		// Without it shaders are made when they are first drawn with, as they would be anyway.
		if (this.#renderer.extensions.has('KHR_parallel_shader_compile'))
			await this.#renderer.compileAsync(scene, camera());
		this.#plain();
		this.sleep();
		this.#gathering = this.gathering(this.#plates, camera(), this.#whole(), () => {}, 8);
		await this.turns.run(this.#gathering, 'seen');
	}

	/** Draws nothing until it is asked to. */
	sleep(): void {
		cancelAnimationFrame(this.#frame);
		cancelAnimationFrame(this.#again);
		this.#frame = this.#again = 0;
		clearTimeout(this.#rest);
		clearTimeout(this.#expecting);
		this.#expecting = undefined;
		this.#stopGathering();
		this.#shown = null;
		this.turns.held = false;
	}

	/** The graphics came back after the browser had taken them away: all that was drawn is gone. */
	comeBack(): void {
		this.#shown = null;
		this.#shadowOf = 0;
		this.moved();
	}

	dispose(): void {
		this.sleep();
		this.#closed = true;
		this.turns.close();
		this.#plainPlate.dispose();
		this.#plates.dispose();
		for (const one of this.#grounds) one.dispose();
		this.#sunShadow.dispose();
		this.#sampleShadow.dispose();
		this.#screen.dispose();
	}
}

const NOTHING: Load = { triangles: 0, pixels: 0 };
const trianglesOf = (part: Part): number => part.triangles;
const sum = <One>(all: readonly One[], of: (one: One) => number): number =>
	all.reduce((total, one) => total + of(one), 0);
