/** The grounds before which a result can be looked at: a name, and its colours from top to bottom. */
import type { Background } from '../../../core/engine/index.ts';

const PAPER = ['#f5f1e8'];
const DUSK = ['#182326'];

export const BACKGROUND_LOOKS: Record<
	Background,
	{ label: string; colours: Record<'paper' | 'dusk', readonly string[]>; dark: boolean }
> = {
	theme: { label: 'As the theme', colours: { paper: PAPER, dusk: DUSK }, dark: false },
	paper: { label: 'Paper', colours: { paper: PAPER, dusk: PAPER }, dark: false },
	dusk: { label: 'Dusk', colours: { paper: DUSK, dusk: DUSK }, dark: true },
	grey: { label: 'Grey', colours: { paper: ['#b9bdba'], dusk: ['#b9bdba'] }, dark: false },
	white: { label: 'White', colours: { paper: ['#ffffff'], dusk: ['#ffffff'] }, dark: false },
	sky: {
		label: 'Soft sky',
		colours: { paper: ['#a9c3d3', '#dfe7e6', '#f1ece0'], dusk: ['#a9c3d3', '#dfe7e6', '#f1ece0'] },
		dark: false
	}
};

/** A background as the page paints it, and whether what lies before it must be light. */
export function backgroundIn(
	id: Background,
	theme: 'paper' | 'dusk'
): { colours: readonly string[]; css: string; dark: boolean } {
	const { colours, dark } = BACKGROUND_LOOKS[id];
	const own = colours[theme];
	return {
		colours: own,
		css: own.length > 1 ? `linear-gradient(${own.join(', ')})` : own[0],
		dark: dark || (id === 'theme' && theme === 'dusk')
	};
}
