/** How closed outlines become filled regions, for the nodes that fill them. */
import type { Curves } from '../../geometry/index.ts';
import { regionsOf } from '../../kernels/fill.ts';
import type { Region } from '../../kernels/fill.ts';
import { resolveCrossings } from '../../kernels/outlines.ts';
import { openSectionsIn, sectionsOf } from '../../kernels/section.ts';
import { choice } from '../define.ts';

export const fillRuleInput = choice({
	label: 'Fill',
	help: 'By nesting is quick and keeps all points, for outlines that do not cross. The others resolve crossings: even-odd leaves what is covered twice open, nonzero fills it where outlines run the same way round.',
	default: 'nesting',
	options: [
		{ id: 'nesting', label: 'By nesting' },
		{ id: 'even-odd', label: 'Even-odd' },
		{ id: 'nonzero', label: 'Nonzero' }
	]
});

/** The filled regions of closed curves; says what was left out. */
export function filledRegions(curves: Curves, rule: string, warn: (message: string) => void): Region[] {
	const open = openSectionsIn(curves);
	if (open)
		warn(
			`${open === 1 ? 'One open curve was' : `${open} open curves were`} left out: only closed outlines have an inside.`
		);
	const closed = sectionsOf(curves, { asDrawn: rule !== 'nesting', closedOnly: true });
	const regions = regionsOf(
		rule === 'even-odd' || rule === 'nonzero' ? resolveCrossings(closed, rule) : closed
	);
	if (!regions.length) warn('There is no closed outline with an area, so nothing was made.');
	return regions;
}
