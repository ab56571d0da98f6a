/** The grounds before which a result can be looked at: a name, and its colour in the light and in the dark theme. */
export const BACKGROUNDS: Record<string, { label: string; paper: string; dusk: string; dark: boolean }> = {
	paper: { label: 'As the theme', paper: '#f5f1e8', dusk: '#182326', dark: false },
	white: { label: 'White', paper: '#ffffff', dusk: '#ffffff', dark: false },
	mist: { label: 'Mist', paper: '#c9d3d1', dusk: '#c9d3d1', dark: false },
	slate: { label: 'Slate', paper: '#3a4648', dusk: '#3a4648', dark: true },
	night: { label: 'Night', paper: '#0d1314', dusk: '#0d1314', dark: true }
};

/** The colour of a background in a theme, and whether what lies before it must be light. */
export function backgroundIn(id: string, theme: 'paper' | 'dusk'): { colour: string; dark: boolean } {
	const known = Object.hasOwn(BACKGROUNDS, id) ? id : 'paper';
	const { dark, [theme]: colour } = BACKGROUNDS[known];
	return { colour, dark: dark || (known === 'paper' && theme === 'dusk') };
}
