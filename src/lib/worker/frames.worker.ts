/** Evaluates the frames of a generator one after another and makes files, pictures or a video of them, away from the page. */
import { Zip, ZipPassThrough } from 'fflate';
import { framesOf, momentAt } from '$core/engine/index';
import type { Evaluator } from '$core/engine/index';
import { exportFiles, movingFile } from '$core/session/export';
import { numbered, resultAt } from '$core/session/frames';
import { evaluatorFor, objectOf } from '$core/session/job';
import type { OpenedFile } from '$core/session/job';
import { Shows } from '$core/session/shows';
import { SpecimenScene } from '$lib/viewport/specimen-scene';
import type { FramesAnswer, FramesRequest } from './frames';
import { VideoFile } from './video-file';

const say = (answer: FramesAnswer): void => self.postMessage(answer);
let stopped = false;

self.onmessage = ({ data }: MessageEvent<FramesRequest | 'stop'>): void => {
	if (data === 'stop') stopped = true;
	else void make(data).catch((error: unknown) => say({ kind: 'failed', message: (error as Error).message }));
};

/** What takes frames in and gives a file. */
interface Maker {
	ending: string;
	add(frame: number): Promise<void>;
	/** Ends it, with what was added. */
	end(): Promise<void>;
}

async function make(wanted: FramesRequest): Promise<void> {
	const { first, last } = wanted;
	const maker = await MAKERS[wanted.as](wanted);
	let made = 0;
	let why: string | null = null;
	for (let frame = first; frame <= last && why === null; frame++) {
		try {
			await maker.add(frame);
			made++;
			say({ kind: 'frame', frame });
			// So that a word to stop is heard.
			await new Promise((next) => setTimeout(next));
			if (stopped && frame < last) why = 'It was stopped.';
		} catch (error) {
			if (!made) throw error;
			why = `Frame ${frame} could not be made: ${(error as Error).message}`;
		}
	}
	await maker.end();
	say({ kind: 'done', frames: made, ending: maker.ending, why });
}

const part = (bytes: Uint8Array): void => say({ kind: 'part', bytes: bytes as Uint8Array<ArrayBuffer> });

/** A zip that is handed on as it is written. */
function zipping(): { add(name: string, bytes: Uint8Array): void; end(): void } {
	const zip = new Zip((error, bytes) => {
		if (error) throw error;
		part(bytes);
	});
	return {
		add(name, bytes) {
			const file = new ZipPassThrough(name);
			zip.add(file);
			file.push(bytes, true);
		},
		end: () => zip.end()
	};
}

/** The results of frames as geometry, one evaluator for all of them. */
function evaluated({ document, assets }: FramesRequest) {
	const file: OpenedFile = {
		document,
		assets: new Map(assets.map(({ hash, bytes }) => [hash, bytes])),
		leftOut: []
	};
	const evaluator: Evaluator = evaluatorFor(file, { memory: 1.5e9, seconds: 120 });
	return {
		work: <Result>(run: () => Result): Result => evaluator.ledger.work(run),
		at: (frame: number) => resultAt(file, { frame, evaluator })
	};
}

/** Draws frames. */
function drawn({ document, assets, picture, camera, light }: FramesRequest) {
	const shows = new Shows({ memory: 1.5e9 }, assets);
	const scene = new SpecimenScene(light);
	return async (frame: number): Promise<OffscreenCanvas> => {
		const { picture: told } = shows.showResult(document, { frame, camera });
		if (camera !== null && !told.seen)
			throw new Error('The camera sees nothing: it has no result, or it stands where it looks at.');
		return scene.frame(told.packet, told.bounds, { ...picture, seen: told.seen ?? picture.seen });
	};
}

const MAKERS: Record<FramesRequest['as'], (wanted: FramesRequest) => Maker | Promise<Maker>> = {
	animation(wanted) {
		const { document, first, last, options } = wanted;
		const frames = evaluated(wanted);
		const file = movingFile(
			{ object: objectOf(document), ...options },
			{ rate: framesOf(document).rate, frames: last - first + 1 }
		);
		return {
			ending: file.ending,
			async add(frame) {
				const { geometry, cameras } = frames.at(frame);
				frames.work(() => file.add(geometry, frame, cameras));
			},
			async end() {
				part(frames.work(() => file.bytes()));
			}
		};
	},
	files(wanted) {
		const { options } = wanted;
		const frames = evaluated(wanted);
		const zip = zipping();
		return {
			ending: '.zip',
			async add(frame) {
				const { geometry, cameras } = frames.at(frame);
				const name = `${options.name}-${numbered(frame)}`;
				const files = frames.work(() =>
					exportFiles(geometry, { object: objectOf(wanted.document), ...options, name, cameras })
				);
				for (const { name: ending, bytes } of files) zip.add(name + ending, bytes);
			},
			async end() {
				zip.end();
			}
		};
	},
	pictures(wanted) {
		const draw = drawn(wanted);
		const zip = zipping();
		return {
			ending: '.zip',
			async add(frame) {
				const blob = await (await draw(frame)).convertToBlob({ type: 'image/png' });
				zip.add(`${wanted.options.name}-${numbered(frame)}.png`, new Uint8Array(await blob.arrayBuffer()));
			},
			async end() {
				zip.end();
			}
		};
	},
	async video(wanted) {
		const { document, first, picture } = wanted;
		const { step } = momentAt(document, first);
		const draw = drawn(wanted);
		const video = await VideoFile.begin(picture, step, part);
		return {
			ending: video.ending,
			async add(frame) {
				await video.add(await draw(frame));
			},
			end: () => video.end()
		};
	}
};
