/** Evaluates variations of a generator and draws each, away from the page. To stop it is to end it. */
import { Shows } from '$core/session/shows';
import { varied } from '$core/session/variations';
import { SpecimenScene } from '$lib/viewport/specimen-scene';
import type { SpecimenAnswer, SpecimenRequest } from './specimens';

/** Half of what the View's own evaluation may take. */
const shows = new Shows({ memory: 1e9 });
let scene: SpecimenScene | null = null;

const say = (answer: SpecimenAnswer): void => self.postMessage(answer);

/** One request after the other: they share the session and the scene. */
let before: Promise<void> = Promise.resolve();
self.onmessage = ({ data }: MessageEvent<SpecimenRequest>): void => {
	const { run } = data;
	before = before
		.then(() => make(data))
		.catch((error: unknown) => {
			say({ run, kind: 'failed', place: 0, message: (error as Error).message });
			say({ run, kind: 'done' });
		});
};

async function make(data: SpecimenRequest): Promise<void> {
	const { run, document, variations, assets, light, stand, width, height } = data;
	scene ??= new SpecimenScene(light);
	for (const asset of assets) shows.session.take({ kind: 'asset', asset });
	for (const [place, variation] of variations.entries()) {
		try {
			const wanted = varied(document, variation);
			const { picture, reports } = shows.showResult(wanted);
			const blob = await scene.picture(picture.packet, picture.bounds, { width, height, stand });
			say({ run, kind: 'specimen', place, blob, hash: reports?.hash ?? null });
		} catch (error) {
			say({ run, kind: 'failed', place, message: (error as Error).message });
		}
	}
	say({ run, kind: 'done' });
}
