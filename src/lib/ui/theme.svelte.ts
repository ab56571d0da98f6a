/** The two themes. The choice is kept; without one, the system decides. */
type Theme = 'paper' | 'dusk';

function first(): Theme {
	const kept = localStorage.getItem('embrell-theme');
	if (kept === 'paper' || kept === 'dusk') return kept;
	return matchMedia('(prefers-color-scheme: dark)').matches ? 'dusk' : 'paper';
}

class ThemeState {
	current = $state<Theme>(first());

	apply(): void {
		document.documentElement.dataset.theme = this.current;
	}

	toggle(): void {
		this.current = this.current === 'paper' ? 'dusk' : 'paper';
		localStorage.setItem('embrell-theme', this.current);
		this.apply();
	}
}

export const theme = new ThemeState();
