/** How somebody exports, as they did the last time. */
import { z } from 'zod';

z.config({ jitless: true });

const KEY = 'embrell-export';
const choiceSchema = z.object({
	format: z.enum(['glb', 'obj', 'ply', 'usda']).catch('glb'),
	flatten: z.boolean().catch(false),
	unit: z.enum(['m', 'cm', 'mm']).catch('m'),
	up: z.enum(['y', 'z']).catch('y'),
	details: z.boolean().catch(false)
});
type Choice = z.infer<typeof choiceSchema>;

function remembered(): Choice {
	let stored: unknown = {};
	try {
		stored = JSON.parse(localStorage.getItem(KEY) ?? '{}');
	} catch {
		// Without a place to remember it, or with something else there, it begins anew.
	}
	const read = choiceSchema.safeParse(stored);
	return read.success ? read.data : choiceSchema.parse({});
}

export class ExportChoice {
	format = $state<Choice['format']>('glb');
	/** Copies as meshes of their own. */
	flatten = $state(false);
	/** Of an OBJ. */
	unit = $state<Choice['unit']>('m');
	up = $state<Choice['up']>('y');
	/** All levels of detail. */
	details = $state(false);

	constructor() {
		const { format, flatten, unit, up, details } = remembered();
		this.format = format;
		this.flatten = flatten;
		this.unit = unit;
		this.up = up;
		this.details = details;
	}

	/** The next dialogue begins with this. */
	remember(): void {
		const { format, flatten, unit, up, details } = this;
		try {
			localStorage.setItem(KEY, JSON.stringify({ format, flatten, unit, up, details }));
		} catch {
			// Then the next one begins as the first did.
		}
	}
}
