/** Exporting frames: what is chosen, how far it is, and what comes of it. */
import { toast } from 'svelte-sonner';
import type { Frames } from '$core/engine/index';
import { framesOf } from '$core/engine/index';
import { formatCount } from '$core/math/index';
import type { ExportOptions } from '$core/session/export';
import type { Editor } from '$lib/editor/editor.svelte';
import { assetsReadBy, download, fileName } from '$lib/store/files';
import { backgroundIn } from '$lib/viewport/backgrounds';
import { USUAL_LIGHT } from '$lib/viewport/light';
import { theme } from '$lib/ui/theme.svelte';
import { FramesClient } from '$lib/worker/frames';
import type { FramesAs, FramesRequest } from '$lib/worker/frames';

export interface Way {
	id: string;
	label: string;
	as: FramesAs;
	format: ExportOptions['format'];
}
export const WAYS: readonly Way[] = [
	{ id: 'animation', label: 'One GLB with animation', as: 'animation', format: 'glb' },
	{ id: 'usda', label: 'One USD with samples over time', as: 'animation', format: 'usda' },
	{ id: 'glb', label: 'A GLB for each frame, in a zip', as: 'files', format: 'glb' },
	{ id: 'obj', label: 'An OBJ for each frame, in a zip', as: 'files', format: 'obj' },
	{ id: 'ply', label: 'A PLY for each frame, in a zip', as: 'files', format: 'ply' },
	{ id: 'pictures', label: 'Pictures, PNG in a zip', as: 'pictures', format: 'glb' },
	{ id: 'video', label: 'Video', as: 'video', format: 'glb' }
];
const TYPES: Record<string, string> = {
	'.glb': 'model/gltf-binary',
	'.usda': 'model/vnd.usda',
	'.zip': 'application/zip',
	'.webm': 'video/webm',
	'.mp4': 'video/mp4'
};
const SAMPLES = { refined: 16, plain: 4 };
/** A zip counts its files in 16 bits, and an OBJ has two for each frame. */
const MOST_FRAMES: Readonly<Record<string, number>> = {
	glb: 65_535,
	ply: 65_535,
	pictures: 65_535,
	obj: 32_767
};
/** Sides of pictures, in pixels. */
const SIDES = { low: 16, high: 8192 };

export class FramesExport {
	readonly #editor: Editor;
	readonly #client = new FramesClient();
	readonly frames: Frames;
	way = $state<string>('animation');
	first = $state(1);
	last = $state(1);
	width = $state(1280);
	height = $state(720);
	transparent = $state(false);
	refined = $state(false);
	/** The *Camera* through which pictures are taken; empty for the View as it stands. */
	camera = $state('');
	/** The frame that was made last, while frames are made. */
	at = $state<number | null>(null);
	working = $state(false);
	#began = 0;

	constructor(editor: Editor) {
		this.#editor = editor;
		this.frames = framesOf(editor.document);
		this.first = this.frames.first;
		this.last = this.frames.last;
		this.camera = editor.camera ?? '';
	}

	/** Through what pictures can be taken. */
	get cameras(): { id: string; label: string }[] {
		const { nodes } = this.#editor.document.graphs.main;
		const own = nodes.filter(({ kind }) => kind === 'camera').map(({ id, short }) => ({ id, label: short }));
		return [{ id: '', label: 'As the View sees it now' }, ...own];
	}

	get chosen(): Way {
		return WAYS.find(({ id }) => id === this.way)!;
	}
	get isDrawn(): boolean {
		return this.chosen.as === 'pictures' || this.chosen.as === 'video';
	}
	get count(): number {
		return this.last - this.first + 1;
	}
	get done(): number {
		return this.at === null ? 0 : this.at - this.first + 1;
	}
	/** Seconds that it will still take, by what was made; null where nobody knows yet. */
	get left(): number | null {
		return this.done < 2
			? null
			: (((performance.now() - this.#began) / this.done) * (this.count - this.done)) / 1000;
	}

	/** Why it cannot begin, as a sentence; null where it can. */
	get why(): string | null {
		const { first, last, width, height } = this;
		if (!Number.isInteger(first) || !Number.isInteger(last) || last < first)
			return 'Give the first and the last frame as whole numbers, the first one first.';
		const most = MOST_FRAMES[this.chosen.id] ?? 100_000;
		if (last - first >= most)
			return `At most ${formatCount(most)} frames fit into one such file: export them in parts.`;
		const fits = (side: number) => side >= SIDES.low && side <= SIDES.high;
		return this.isDrawn && !(fits(width) && fits(height))
			? 'Both sides of a picture lie between 16 and 8,192 pixels.'
			: null;
	}

	async #request(): Promise<FramesRequest> {
		const { document } = this.#editor;
		const { as, format } = this.chosen;
		return {
			document: $state.snapshot(document) as typeof document,
			assets: await assetsReadBy(document),
			first: this.first,
			last: this.last,
			as,
			options: {
				format,
				flatten: false,
				attributes: [],
				name: as === 'animation' ? document.name : fileName(document.name)
			},
			picture: {
				width: Math.round(this.width),
				height: Math.round(this.height),
				seen: this.#editor.port!.seen,
				samples: this.refined ? SAMPLES.refined : SAMPLES.plain,
				behind: backgroundIn(document.view.background, theme.current).colours,
				transparent: this.transparent && as === 'pictures'
			},
			camera: this.camera || null,
			light: document.view.light ?? USUAL_LIGHT
		};
	}

	/** Makes them. Gives whether something was made. */
	async run(): Promise<boolean> {
		this.working = true;
		this.at = null;
		this.#began = performance.now();
		try {
			const made = await this.#client.make(await this.#request(), (frame) => (this.at = frame));
			const name = fileName(this.#editor.document.name) + (this.chosen.as === 'pictures' ? '-pictures' : '');
			download(new Blob([made.blob], { type: TYPES[made.ending] }), name + made.ending, TYPES[made.ending]);
			if (made.why)
				toast.warning(`${made.why} The ${made.frames} before it are in the file.`, { duration: 12_000 });
			return true;
		} catch (error) {
			toast.error((error as Error).message, { duration: 12_000 });
			return false;
		} finally {
			this.working = false;
			this.at = null;
		}
	}

	stop = (): void => this.#client.stop();
	close = (): void => this.#client.end();
}
