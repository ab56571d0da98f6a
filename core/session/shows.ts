/** A session driven in one go: one generator after the other is shown, and what came of it is handed back. */
import type { GeneratorDocument } from '../engine/index.ts';
import { resultNode } from '../engine/index.ts';
import type { Asset } from '../geometry/index.ts';
import type { Look } from './look.ts';
import type { Answer, Request } from './messages.ts';
import { patchBetween } from './patches.ts';
import { Session } from './session.ts';
import type { SessionOptions } from './session.ts';

type Told<Kind extends Answer['kind']> = Extract<Answer, { kind: Kind }>;

export interface Shown {
	readonly picture: Told<'picture'>;
	/** Null where it was stopped after the picture. */
	readonly reports: Told<'reports'> | null;
}

export class Shows {
	readonly session: Session;
	#answers: Answer[] = [];
	#sent: GeneratorDocument | null = null;
	#revision = 0;

	constructor(options: Omit<SessionOptions, 'say'> = {}, assets: Iterable<Asset> = []) {
		this.session = new Session({ ...options, say: (answer) => void this.#answers.push(answer) });
		for (const asset of assets) this.session.take({ kind: 'asset', asset });
	}

	/** What the session answers to a request, all at once. */
	ask(request: Request): readonly Answer[] {
		this.#answers = [];
		this.session.take(request);
		return this.#answers;
	}

	/** Shows a generator; throws what the session says where it fails. Errors of nodes stand in the reports. */
	show(document: GeneratorDocument, look: Partial<Look> = {}): Shown {
		const patch = patchBetween(this.#sent, document);
		this.#sent = document;
		const answers = this.ask({ kind: 'evaluate', revision: ++this.#revision, patch, look });
		const find = <Kind extends Answer['kind']>(kind: Kind) =>
			answers.find((one): one is Told<Kind> => one.kind === kind) ?? null;
		const picture = find('picture');
		if (!picture) throw new Error(find('failed')?.message ?? 'It came to nothing.');
		return { picture, reports: find('reports') };
	}

	/** Shows the result of a generator; throws what its node says where it has none. */
	showResult(document: GeneratorDocument, look: Omit<Partial<Look>, 'shown'> = {}): Shown {
		const target = resultNode(document);
		const shown = this.show(document, { ...look, shown: target ? [target.id] : [] });
		const error = shown.picture.reports.find(({ id }) => id === target?.id)?.error;
		if (error) throw new Error(error.message);
		return shown;
	}
}
