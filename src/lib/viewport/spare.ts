/**
 * A View that stands by: its graphics and shaders take a second to make where a processor draws, so they are made while the
 * Library is looked at, and kept when a generator is left. At most one is kept; whoever takes it owns it until it is given back.
 */
import type { Packet } from '$core/session/messages';
import { ViewScene } from './scene';

let spare: ViewScene | null = null;

/** A box once, and twice as copies: all that shaders differ by. */
function tryOut(): Packet {
	const positions = new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]);
	const normals = new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1]);
	const index = new Uint32Array([0, 1, 2]);
	const groups = [{ start: 0, count: 3, material: null }];
	const matrices = new Float32Array(16);
	for (const k of [0, 5, 10, 15]) matrices[k] = 1;
	const draw = { matricesKey: null, matrices: null, count: 1, node: 'warm', ghost: false };
	return {
		objects: [
			{ key: 'warm mesh', kind: 'mesh', positions, normals, index, groups },
			{ key: 'warm lines', kind: 'lines', positions: positions.slice(0, 6) }
		],
		draws: [
			{ ...draw, object: 'warm mesh' },
			{ ...draw, object: 'warm mesh', matricesKey: 'warm places', matrices },
			{ ...draw, object: 'warm lines' }
		],
		triangles: 0
	};
}

/** Makes a View ready, where none stands by. */
export async function warmView(): Promise<void> {
	if (spare) return;
	let view: ViewScene;
	try {
		view = spare = new ViewScene(document.createElement('canvas'));
	} catch {
		// Without graphics the View itself will say so.
		return;
	}
	view.resize(64, 64);
	view.take(tryOut(), new Set(), { low: [0, 0, 0], high: [1, 1, 0.1] });
	await view.painter.warmUp();
	// Whoever took it meanwhile has cleared it already.
	if (spare === view) view.reset();
}

/** The View that stands by, also where it is still being warmed, or a new one. */
export function takeView(): ViewScene {
	if (!spare) return new ViewScene(document.createElement('canvas'));
	const view = spare;
	spare = null;
	view.reset();
	return view;
}

/** Gives a View back, to stand by for the next generator. */
export function giveBackView(view: ViewScene): void {
	view.canvas.remove();
	if (spare || view.isLost) return view.dispose();
	view.reset();
	spare = view;
}
