/** A setting's label dragged onto another setting's: the other follows it from then on. */
import type { Following, SettingPlace, TieEnd } from '$core/engine/index';
import { cutPart, endAt, mayFollow, nameOfEnd, partName, withFollowing } from '$core/engine/index';
import type { Attachment } from 'svelte/attachments';
import type { Dials } from './dials.svelte';
import type { Hand } from './hand';
import type { Playing } from './playing.svelte';

/** A label is dragged from so many pixels on. */
const DRAGS_FROM = 5;
/** Resting for so many milliseconds on a node in the graph brings its settings up. */
const OPENS_AFTER = 450;
/** The part of a vector that is up. */
const HEIGHT = 1;

/** A drag on its way: where the pointer is, and what a drop would do. */
export interface Leading {
	leader: SettingPlace;
	x: number;
	y: number;
	over: SettingPlace | null;
	following: Following | null;
}

/** A label was dropped on another: it may follow, or both may be tied. */
export interface Choices {
	leader: SettingPlace;
	over: SettingPlace;
	x: number;
	y: number;
	ends: [TieEnd, TieEnd];
	mayFollow: boolean;
	mayTie: boolean;
	/** What each would do, or why it cannot be. */
	follows: string;
	ties: string;
}

type FollowingHand = Hand & { readonly dials: Dials; readonly playing: Playing };

export class LeadingDrag {
	readonly #editor: FollowingHand;
	now = $state.raw<Leading | null>(null);
	/** What a drop may do, until one is chosen: where it stands, and what each says. */
	choices = $state.raw<Choices | null>(null);
	#rest: { node: string; timer: ReturnType<typeof setTimeout> } | null = null;

	constructor(editor: FollowingHand) {
		this.#editor = editor;
	}

	/** Makes an element lead: dragged onto the label of another setting, that one follows. */
	leads =
		(of: () => SettingPlace): Attachment<HTMLElement> =>
		(element) => {
			const down = (event: PointerEvent) => {
				if (event.button === 0) this.#begin(of(), event);
			};
			element.addEventListener('pointerdown', down);
			return () => element.removeEventListener('pointerdown', down);
		};

	/** The label may go while it is dragged, as when another node's settings come up: the window is listened to. */
	#begin(leader: SettingPlace, { clientX, clientY, pointerId }: PointerEvent): void {
		const heard = new AbortController();
		const { signal } = heard;
		const end = () => {
			heard.abort();
			this.#restOn(null);
			this.now = null;
		};
		const move = (event: PointerEvent) => {
			if (event.pointerId !== pointerId) return;
			const [x, y] = [event.clientX, event.clientY];
			if (!this.now && Math.hypot(x - clientX, y - clientY) < DRAGS_FROM) return;
			event.preventDefault();
			this.#moved(leader, x, y);
		};
		addEventListener('pointermove', move, { signal });
		addEventListener(
			'pointerup',
			(event) => {
				if (event.pointerId !== pointerId) return;
				const { over, following } = this.now ?? {};
				end();
				if (over && following) this.#dropped(leader, over, event.clientX, event.clientY);
			},
			{ signal }
		);
		addEventListener('pointercancel', end, { signal });
		addEventListener('keydown', (event) => event.key === 'Escape' && end(), { signal });
	}

	#moved(leader: SettingPlace, x: number, y: number): void {
		const element = document.elementFromPoint(x, y);
		const row = element?.closest<HTMLElement>('[data-setting-of]');
		const label = element?.closest<HTMLElement>('[data-node-id]');
		this.#restOn(row ? null : (label?.dataset.nodeId ?? null));
		const over: SettingPlace | null = row ? [row.dataset.settingOf!, row.dataset.setting!] : null;
		const isSame = over && over[0] === leader[0] && over[1] === leader[1];
		const following = over && !isSame ? mayFollow(this.#editor.graph, leader, over) : null;
		this.now = { leader, x, y, over: following ? over : null, following };
	}

	#restOn(node: string | null): void {
		if (this.#rest?.node === node) return;
		if (this.#rest) clearTimeout(this.#rest.timer);
		this.#rest = node ? { node, timer: setTimeout(() => this.#editor.select([node]), OPENS_AFTER) } : null;
	}

	#dropped(leader: SettingPlace, over: SettingPlace, x: number, y: number): void {
		const following = mayFollow(this.#editor.graph, leader, over);
		const ends = this.#ends(leader, over);
		const whyNotTie = this.#editor.dials.whyNoTie(...ends);
		if (!following.isAllowed && whyNotTie) return;
		const [a, b] = ends.map((end) => nameOfEnd(this.#editor.document, end));
		this.choices = {
			leader,
			over,
			ends,
			x,
			y,
			mayFollow: following.isAllowed,
			mayTie: !whyNotTie,
			follows: following.isAllowed ? following.says : following.reason,
			ties: whyNotTie ?? `${a} and ${b} keep the proportion in which they stand, whichever is moved.`
		};
	}

	/** The ends of a tie between two settings. Of a vector it is one part: that on which it was dropped, or the height. */
	#ends(leader: SettingPlace, over: SettingPlace): [TieEnd, TieEnd] {
		const part = cutPart(over[1])?.part ?? HEIGHT;
		const endOf = ([node, setting]: SettingPlace): TieEnd => {
			const isVector = Array.isArray(this.#editor.playing.rawAt({ node, setting }));
			return endAt(this.#editor.graphId, node, isVector ? partName(setting, part) : setting);
		};
		return [endOf(leader), endOf(over)];
	}

	/** What was chosen of what a drop may do. */
	choose(what: 'follow' | 'tie' | null): void {
		const { choices } = this;
		this.choices = null;
		if (!choices || !what) return;
		if (what === 'follow') this.follow(choices.leader, choices.over);
		else this.#editor.dials.tie(...choices.ends);
	}

	/** What it says beside the pointer. */
	get says(): string {
		const { now } = this;
		if (!now) return '';
		if (now.following) return now.following.isAllowed ? now.following.says : now.following.reason;
		const node = this.#editor.node(now.leader[0]);
		return `Drop ${node?.short}.${now.leader[1]} on a setting that shall follow it; rest on a node for its settings.`;
	}

	/** Makes one setting follow another, as one step. Answers why not where it may not. */
	follow(leader: SettingPlace, follower: SettingPlace): string | null {
		const following = mayFollow(this.#editor.graph, leader, follower);
		if (!following.isAllowed) return following.reason;
		this.#editor.changeGraph(`Follow ${following.formula}`, (graph) =>
			withFollowing(graph, leader, follower)
		);
		return null;
	}
}
