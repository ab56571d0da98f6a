import { joinCurves as join } from '../../kernels/join-curves.ts';
import { defineNode, geometry, number, output, yesNo } from '../define.ts';

export const joinCurves = defineNode({
	id: 'join-curves',
	version: 1,
	name: 'Join curves',
	family: 'curves',
	words: ['weld', 'connect', 'chain', 'stitch', 'merge ends', 'spline', 'path', 'fuse'],
	help: 'Open curves whose ends lie near one another become one, turned round where need be. A chain that comes back to its start is closed.',
	inputs: {
		curve: geometry({
			label: 'Curve',
			help: 'The curves to join; closed ones are let through.',
			needs: 'curves'
		}),
		distance: number({
			label: 'Distance',
			help: 'Ends nearer than this are joined.',
			default: 0.001,
			min: 0,
			slider: [0, 1],
			step: 0.001,
			unit: 'm'
		}),
		bridge: yesNo({
			label: 'Keep both ends',
			help: 'Both points stay, with a piece between them; otherwise the second is left out.',
			default: false
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The joined curves.') },
	run: ({ curve, distance, bridge }) => ({
		curve: { ...curve, curves: join(curve.curves!, distance, bridge) }
	})
});
