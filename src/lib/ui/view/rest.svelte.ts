/** Whether the View refines its picture when it rests. The choice is kept in the browser; without one, it does. */
const KEY = 'embrell-refine';

class RestState {
	refines = $state(localStorage.getItem(KEY) !== 'off');

	set(refines: boolean): void {
		this.refines = refines;
		localStorage.setItem(KEY, refines ? 'on' : 'off');
	}
}

export const rest = new RestState();
