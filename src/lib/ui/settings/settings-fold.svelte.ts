/** The column of settings, folded to a strip so that the graph gets its room: it opens where another node is selected. */
import type { PaneGroup } from 'paneforge';

const STRIP = 34;
const REMEMBERED = 'embrell-settings-folded';

export class SettingsFold {
	panes = $state<PaneGroup>();
	/** Whether only the strip is there now. */
	isStrip = $state(false);
	/** How wide the strip is, in hundredths of the screen. */
	readonly strip = (100 * STRIP) / Math.max(600, innerWidth);
	readonly #selected: () => ReadonlySet<string>;
	/** Whether the artist wants it folded when nothing is selected. */
	#isWanted = $state(localStorage.getItem(REMEMBERED) === 'yes');
	/** What was selected when it was folded: for that it stays so. */
	#foldedAt: ReadonlySet<string> | null = null;
	/** How wide it was. */
	#wide = 20;

	constructor(selected: () => ReadonlySet<string>) {
		this.#selected = selected;
		$effect(() => {
			const now = selected();
			if (!this.panes) return;
			this.isStrip = this.panes.getLayout()[1] <= this.strip + 0.5;
			if (!this.#isWanted) return;
			if (now.size && now !== this.#foldedAt) this.#open();
			else if (!now.size) this.#close();
		});
	}

	/** Folds it, until something else is selected. */
	fold(): void {
		this.#foldedAt = this.#selected();
		this.#want(true);
		this.#close();
	}
	/** Opens it, and lets it stay. */
	keepOpen(): void {
		this.#want(false);
		this.#open();
	}

	#want(isFolded: boolean): void {
		this.#isWanted = isFolded;
		localStorage.setItem(REMEMBERED, isFolded ? 'yes' : 'no');
	}
	/** The room goes to the graph, and comes from it. */
	#close(): void {
		const [graph, settings, view] = this.panes!.getLayout();
		if (settings <= this.strip + 0.5) return;
		this.#wide = settings;
		this.panes!.setLayout([graph + settings - this.strip, this.strip, view]);
		this.isStrip = true;
	}
	#open(): void {
		const [graph, settings, view] = this.panes!.getLayout();
		if (settings > this.strip + 0.5) return;
		this.panes!.setLayout([graph + settings - this.#wide, this.#wide, view]);
		this.isStrip = false;
	}
}
