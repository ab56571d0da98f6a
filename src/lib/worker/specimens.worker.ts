/** Evaluates variations of a generator and draws each, away from the page. To stop it is to end it. */
import { resultNode } from '$core/index';
import type { GeneratorDocument } from '$core/index';
import type { Answer } from '$core/session/messages';
import { patchBetween } from '$core/session/patches';
import { Session } from '$core/session/session';
import { varied } from '$core/session/variations';
import { SpecimenScene } from '$lib/viewport/specimen-scene';
import type { SpecimenAnswer, SpecimenRequest } from './specimens';

let answers: Answer[] = [];
/** Half of what the View's own evaluation may take. */
const session = new Session({ memory: 1e9, say: (answer) => void answers.push(answer) });
let scene: SpecimenScene | null = null;
let sent: GeneratorDocument | null = null;
let revision = 0;

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
	for (const asset of assets) session.take({ kind: 'asset', asset });
	for (const [place, variation] of variations.entries()) {
		try {
			const wanted = varied(document, variation);
			const target = resultNode(wanted);
			answers = [];
			session.take({
				kind: 'evaluate',
				revision: ++revision,
				patch: patchBetween(sent, wanted),
				shown: target ? [target.id] : [],
				ghosts: [],
				wireframe: false,
				heat: null
			});
			sent = wanted;
			const picture = answers.find((answer) => answer.kind === 'picture');
			const reports = answers.find((answer) => answer.kind === 'reports');
			const failed = answers.find((answer) => answer.kind === 'failed');
			if (picture?.kind !== 'picture')
				throw new Error(failed?.kind === 'failed' ? failed.message : 'It came to nothing.');
			const error = picture.reports.find((report) => report.id === target?.id)?.error;
			if (error) throw new Error(error.message);
			const blob = await scene.picture(picture.packet, picture.bounds, { width, height, stand });
			say({ run, kind: 'specimen', place, blob, hash: reports?.kind === 'reports' ? reports.hash : null });
		} catch (error) {
			say({ run, kind: 'failed', place, message: (error as Error).message });
		}
	}
	say({ run, kind: 'done' });
}
