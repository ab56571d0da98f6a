/**
 * Stands in for what a browser gives to pages: its store, its notes, locks that tabs share, workers that are only heard. The
 * tabs of a test share all of it, as those of one browser do.
 */
import 'fake-indexeddb/auto';

const notes = new Map<string, string>();
let roomForNotes = Infinity;

const localStorage: Storage = {
	get length() {
		return notes.size;
	},
	key: (i) => [...notes.keys()][i] ?? null,
	getItem: (key) => notes.get(key) ?? null,
	setItem(key, value) {
		if (value.length > roomForNotes) throw new DOMException('No room', 'QuotaExceededError');
		notes.set(key, value);
	},
	removeItem: (key) => void notes.delete(key),
	clear: () => notes.clear()
};

interface Held {
	name: string;
	mode: LockMode;
	lost: (error: Error) => void;
}
const held = new Set<Held>();
let waiting: (() => void)[] = [];

/** Locks by name, exclusive or shared; whoever asks and finds one taken waits, or is told. */
const locks = {
	query: () => Promise.resolve({ held: [...held].map(({ name, mode }) => ({ name, mode })), pending: [] }),
	async request(
		name: string,
		...rest: [LockOptions, LockGrantedCallback<unknown>] | [LockGrantedCallback<unknown>]
	) {
		const [options, take] = rest.length === 2 ? rest : [{}, rest[0]];
		const { mode = 'exclusive', ifAvailable = false, steal = false } = options;
		const isTaken = () =>
			[...held].some((one) => one.name === name && (mode === 'exclusive' || one.mode === 'exclusive'));
		if (steal)
			for (const one of held)
				if (one.name === name) {
					held.delete(one);
					one.lost(new DOMException('Stolen', 'AbortError'));
				}
		if (isTaken() && ifAvailable) return take(null);
		while (isTaken()) await new Promise<void>((again) => waiting.push(again));
		return new Promise((done, failed) => {
			const own: Held = { name, mode, lost: failed };
			held.add(own);
			Promise.resolve(take({ name, mode }))
				.then(done, failed)
				.finally(() => {
					held.delete(own);
					const next = waiting;
					waiting = [];
					for (const again of next) again();
				});
		});
	}
};

/** A worker that never answers, and is ended when it is told to. */
class Silent {
	static running = new Set<Silent>();
	onmessage: unknown = null;
	constructor() {
		Silent.running.add(this);
	}
	postMessage(): void {}
	addEventListener(): void {}
	terminate(): void {
		Silent.running.delete(this);
	}
}

Object.defineProperty(globalThis, 'localStorage', { value: localStorage, configurable: true });
// Other tests of the process meet it too: it says of itself what later versions of Node do.
const navigator = { locks, userAgent: `Node.js/${process.versions.node}` };
Object.defineProperty(globalThis, 'navigator', { value: navigator, configurable: true });
/** One that a tab leaves open when it goes does not keep the test from its end. */
class Channel extends BroadcastChannel {
	constructor(name: string) {
		super(name);
		(this as unknown as { unref(): void }).unref();
	}
}
/** Work for the next picture, which comes when the test says so. */
const awaited = new Map<number, (now: number) => void>();
let pictures = 0;
const requestAnimationFrame = (work: (now: number) => void): number => {
	awaited.set(++pictures, work);
	return pictures;
};
const cancelAnimationFrame = (id: number): void => void awaited.delete(id);
Object.assign(globalThis, { requestAnimationFrame, cancelAnimationFrame });
Object.assign(globalThis, { Worker: Silent, BroadcastChannel: Channel, crossOriginIsolated: false });

export const browser = {
	/** Names of locks that are held now. */
	locks: (): string[] => [...held].map(({ name }) => name).sort(),
	/** Workers that were started and not ended. */
	get workers(): number {
		return Silent.running.size;
	},
	/** Draws a picture: does what waits for it. Gives how much that was. */
	picture(): number {
		const work = [...awaited.values()];
		awaited.clear();
		for (const one of work) one(performance.now());
		return work.length;
	},
	/** What is left of it when a page goes: locks and workers do not outlive theirs. */
	pageGoes(): void {
		for (const one of held) one.lost(new DOMException('Gone', 'AbortError'));
		held.clear();
		awaited.clear();
		Silent.running.clear();
	},
	/** From now on a note may have this many letters. */
	roomForNotes(letters: number): void {
		roomForNotes = letters;
	},
	notes
};

/** Waits until something holds. */
export async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
	for (let i = 0; !(await holds()); i++) {
		if (i > 2000) throw new Error('It never came to be.');
		await new Promise((done) => setTimeout(done, 1));
	}
}
