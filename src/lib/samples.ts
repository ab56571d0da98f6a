/** The sample generators of Saltreed. */
import boardwalk from '$samples/boardwalk.embrell.json?raw';
import reedBed from '$samples/reed-bed.embrell.json?raw';

export interface Sample {
	id: string;
	name: string;
	about: string;
	text: string;
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
	}
];
