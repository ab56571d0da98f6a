/** The sample generators of Saltreed. */
import boardwalk from '$samples/boardwalk.embrell.json?url';
import dryingNet from '$samples/drying-net.embrell.json?url';
import dryingRack from '$samples/drying-rack.embrell.json?url';
import oysterPlots from '$samples/oyster-plots.embrell.json?url';
import paintedSign from '$samples/painted-sign.embrell.zip?url';
import reedBed from '$samples/reed-bed.embrell.json?url';
import ropeRail from '$samples/rope-rail.embrell.json?url';
import shellDrift from '$samples/shell-drift.embrell.json?url';
import wornBollard from '$samples/worn-bollard.embrell.json?url';

export interface Sample {
	id: string;
	name: string;
	about: string;
	/** The address of its file on our own server. */
	file: string;
	picture: string;
}

export const samples: readonly Sample[] = [
	{
		id: 'reed-bed',
		name: 'Reed bed',
		about: 'A mudflat of noise, and reeds that grow where the tide lets them.',
		file: reedBed,
		picture: '/samples/reed-bed.webp'
	},
	{
		id: 'boardwalk',
		name: 'Boardwalk',
		about: 'Planks and posts fitted along a bend, each a little off true.',
		file: boardwalk,
		picture: '/samples/boardwalk.webp'
	},
	{
		id: 'rope-rail',
		name: 'Rope rail',
		about: 'Three strands wound into a rope that sags between posts, along any curve.',
		file: ropeRail,
		picture: '/samples/rope-rail.webp'
	},
	{
		id: 'worn-bollard',
		name: 'Worn bollard',
		about: 'A swept ring into which a rope has worn its grooves.',
		file: wornBollard,
		picture: '/samples/worn-bollard.webp'
	},
	{
		id: 'drying-net',
		name: 'Drying net',
		about: 'A net of coils that hangs from a rope with floats of cork, and sways.',
		file: dryingNet,
		picture: '/samples/drying-net.webp'
	},
	{
		id: 'drying-rack',
		name: 'Drying rack',
		about: 'Bars that sag from trestle to trestle along a path, pegs, and fish skins on some.',
		file: dryingRack,
		picture: '/samples/drying-rack.webp'
	},
	{
		id: 'oyster-plots',
		name: 'Oyster plots',
		about: 'Stakes from numbers and two formulas, kept in a rhythm, and rounded plots of shells.',
		file: oysterPlots,
		picture: '/samples/oyster-plots.webp'
	},
	{
		id: 'shell-drift',
		name: 'Shell drift',
		about:
			'Mussels, whelks and cockles left by the tide, in shares that change with the distance from the water.',
		file: shellDrift,
		picture: '/samples/shell-drift.webp'
	},
	{
		id: 'painted-sign',
		name: 'Painted sign',
		about: 'Letters and a drawn wave, cut out and lifted along a gust.',
		file: paintedSign,
		picture: '/samples/painted-sign.webp'
	}
];
