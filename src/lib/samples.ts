/** The sample generators of Saltreed. */
import boardwalk from '$samples/boardwalk.embrell.json?raw';
import dryingNet from '$samples/drying-net.embrell.json?raw';
import paintedSign from '$samples/painted-sign.embrell.zip?url';
import reedBed from '$samples/reed-bed.embrell.json?raw';
import ropeRail from '$samples/rope-rail.embrell.json?raw';
import wornBollard from '$samples/worn-bollard.embrell.json?raw';

export interface Sample {
	id: string;
	name: string;
	about: string;
	/** The text of its document, or the address of a packed file with assets. */
	text?: string;
	packed?: string;
	picture: string;
}

export const samples: readonly Sample[] = [
	{
		id: 'reed-bed',
		name: 'Reed bed',
		about: 'A mudflat of noise, and reeds that grow where the tide lets them.',
		text: reedBed,
		picture: '/samples/reed-bed.webp'
	},
	{
		id: 'boardwalk',
		name: 'Boardwalk',
		about: 'Planks and posts fitted along a bend, each a little off true.',
		text: boardwalk,
		picture: '/samples/boardwalk.webp'
	},
	{
		id: 'rope-rail',
		name: 'Rope rail',
		about: 'Three strands wound into a rope that sags between posts, along any curve.',
		text: ropeRail,
		picture: '/samples/rope-rail.webp'
	},
	{
		id: 'worn-bollard',
		name: 'Worn bollard',
		about: 'A swept ring into which a rope has worn its grooves.',
		text: wornBollard,
		picture: '/samples/worn-bollard.webp'
	},
	{
		id: 'drying-net',
		name: 'Drying net',
		about: 'Flattened coils that make a net and close along any path.',
		text: dryingNet,
		picture: '/samples/drying-net.webp'
	},
	{
		id: 'painted-sign',
		name: 'Painted sign',
		about: 'Letters and a drawn wave, cut out and lifted along a gust.',
		packed: paintedSign,
		picture: '/samples/painted-sign.webp'
	}
];
