/** A video, frame by frame, through the browser’s own encoder: VP9 in a WebM, or what else there is. */
import {
	BufferTarget,
	CanvasSource,
	Mp4OutputFormat,
	Output,
	QUALITY_HIGH,
	WebMOutputFormat,
	getFirstEncodableVideoCodec
} from 'mediabunny';
import type { VideoCodec } from 'mediabunny';

const WAYS: readonly {
	ending: string;
	codecs: VideoCodec[];
	format: () => WebMOutputFormat | Mp4OutputFormat;
}[] = [
	{ ending: '.webm', codecs: ['vp9', 'av1', 'vp8'], format: () => new WebMOutputFormat() },
	{ ending: '.mp4', codecs: ['avc', 'hevc'], format: () => new Mp4OutputFormat({ fastStart: 'in-memory' }) }
];
/** A whole picture at least so often, in seconds, so that a player can jump. */
const WHOLE_EVERY = 2;

interface Size {
	width: number;
	height: number;
}

/** The first way in which this browser can write videos of a size; null where there is none. */
async function wayFor({ width, height }: Size) {
	for (const way of WAYS) {
		const codec = await getFirstEncodableVideoCodec(way.codecs, { width, height });
		if (codec) return { ...way, codec };
	}
	return null;
}

export class VideoFile {
	readonly ending: string;
	readonly #output: Output;
	readonly #target: BufferTarget;
	readonly #source: CanvasSource;
	readonly #paper: OffscreenCanvasRenderingContext2D;
	readonly #step: number;
	readonly #hear: (bytes: Uint8Array) => void;
	#count = 0;

	private constructor(
		way: NonNullable<Awaited<ReturnType<typeof wayFor>>>,
		{ width, height }: Size,
		step: number,
		hear: (bytes: Uint8Array) => void
	) {
		const canvas = new OffscreenCanvas(width, height);
		this.ending = way.ending;
		this.#paper = canvas.getContext('2d', { alpha: false })!;
		this.#step = step;
		this.#hear = hear;
		this.#target = new BufferTarget();
		this.#output = new Output({ format: way.format(), target: this.#target });
		this.#source = new CanvasSource(canvas, {
			codec: way.codec,
			quality: QUALITY_HIGH,
			keyFrameInterval: WHOLE_EVERY
		});
		this.#output.addVideoTrack(this.#source, { frameRate: 1 / step });
	}

	/**
	 * Begins a video; both sides of its pictures are even, as encoders want them.
	 * @param step seconds from one frame to the next.
	 * @param hear takes the bytes of the file.
	 */
	static async begin(size: Size, step: number, hear: (bytes: Uint8Array) => void): Promise<VideoFile> {
		const even = { width: size.width & ~1, height: size.height & ~1 };
		const way = await wayFor(even);
		if (!way)
			throw new Error(
				`This browser has no encoder for videos of ${even.width} by ${even.height} pixels. Make a smaller one, or pictures, which any video program puts together.`
			);
		const video = new VideoFile(way, even, step, hear);
		await video.#output.start();
		return video;
	}

	async add(picture: OffscreenCanvas): Promise<void> {
		this.#paper.drawImage(picture, 0, 0);
		await this.#source.add(this.#count * this.#step, this.#step);
		this.#count++;
	}

	/** Writes what there is. */
	async end(): Promise<void> {
		await this.#output.finalize();
		this.#hear(new Uint8Array(this.#target.buffer!));
	}
}
