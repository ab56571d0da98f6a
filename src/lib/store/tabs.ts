/** What tabs of this browser ask of one another about a generator that one of them has open for writing, and tell of it. */

/** Write what is noted; give the right to write away after that; take another name. */
export type TabRequest = { want: 'flush' } | { want: 'release' } | { want: 'rename'; name: string };

type Message =
	| { to: string; ask: string; request: TabRequest }
	| { answer: string; trouble: string | null }
	| { wrote: string };

const CHANNEL = 'embrell';

/** Answers what other tabs ask about a generator: null when it is done, or why it cannot be. Gives what ends that. */
export function answerTabs(id: string, take: (request: TabRequest) => Promise<string | null>): () => void {
	const channel = new BroadcastChannel(CHANNEL);
	channel.onmessage = async ({ data }: MessageEvent<Message>) => {
		if (!('to' in data) || data.to !== id) return;
		const trouble = await take(data.request);
		// Whoever gave the right to write away listens no more, but answers.
		tell({ answer: data.ask, trouble });
	};
	return () => channel.close();
}

function tell(message: Message): void {
	const channel = new BroadcastChannel(CHANNEL);
	channel.postMessage(message);
	channel.close();
}

/** What a tab says that did not answer in time. */
export const NO_ANSWER = 'It is open in another tab, which does not answer.';

/** Asks the tab that has a generator open. Null when it did as asked, or a sentence that says why not. */
export function askTab(id: string, request: TabRequest, within = 3000): Promise<string | null> {
	const channel = new BroadcastChannel(CHANNEL);
	const ask = crypto.randomUUID();
	return new Promise((settled) => {
		const end = (trouble: string | null) => {
			clearTimeout(timer);
			channel.close();
			settled(trouble);
		};
		const timer = setTimeout(() => end(NO_ANSWER), within);
		channel.onmessage = ({ data }: MessageEvent<Message>) => {
			if ('answer' in data && data.answer === ask) end(data.trouble);
		};
		channel.postMessage({ to: id, ask, request } satisfies Message);
	});
}

/** Tells the other tabs that something is stored anew. */
export const tellTabs = (wrote: string): void => tell({ wrote });

/** Hears of what other tabs store. Gives what ends that. */
export function hearTabs(take: (wrote: string) => void): () => void {
	const channel = new BroadcastChannel(CHANNEL);
	channel.onmessage = ({ data }: MessageEvent<Message>) => {
		if ('wrote' in data) take(data.wrote);
	};
	return () => channel.close();
}
