/** The view by the keyboard. */
import type { ViewScene } from './scene';

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
	ArrowLeft: [-1, 0],
	ArrowRight: [1, 0],
	ArrowUp: [0, 1],
	ArrowDown: [0, -1]
};

/** Arrows turn, with Shift they move; plus and minus come nearer and go away. Whether the key was one of these. */
export function nudgeByKey(scene: ViewScene, { key, shiftKey }: KeyboardEvent): boolean {
	if (ARROWS[key]) scene.nudge(shiftKey ? 'pan' : 'orbit', ...ARROWS[key]);
	else if (key === '+' || key === '=') scene.nudge('zoom', 0, 1);
	else if (key === '-') scene.nudge('zoom', 0, -1);
	else return false;
	return true;
}
