/** The sample generators of Saltreed. */
import boardwalk from '$samples/boardwalk.embrell.json?url';
import dryingNet from '$samples/drying-net.embrell.json?url';
import dryingRack from '$samples/drying-rack.embrell.json?url';
import oysterPlots from '$samples/oyster-plots.embrell.json?url';
import paintedSign from '$samples/painted-sign.embrell.zip?url';
import reedBed from '$samples/reed-bed.embrell.json?url';
import ropeRail from '$samples/rope-rail.embrell.json?url';
import shellDrift from '$samples/shell-drift.embrell.json?url';
import glasswort from '$samples/glasswort.embrell.json?url';
import floatLine from '$samples/float-line.embrell.json?url';
import shingledRoof from '$samples/shingled-roof.embrell.json?url';
import sedgeTussock from '$samples/sedge-tussock.embrell.json?url';
import seaLavender from '$samples/sea-lavender.embrell.json?url';
import mangrove from '$samples/mangrove.embrell.json?url';
import lanternPost from '$samples/lantern-post.embrell.json?url';
import tideOrgan from '$samples/tide-organ.embrell.json?url';
import thatch from '$samples/thatch.embrell.json?url';
import lanternString from '$samples/lantern-string.embrell.json?url';
import stiltPlatform from '$samples/stilt-platform.embrell.json?url';
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
			'Mussels, whelks and cockles left by the tide, in proportions that change with the distance from the water.',
		file: shellDrift,
		picture: '/samples/shell-drift.webp'
	},
	{
		id: 'glasswort',
		name: 'Glasswort',
		about: 'Joints that carry joints, two on each, redder towards the tips.',
		file: glasswort,
		picture: '/samples/glasswort.webp'
	},
	{
		id: 'float-line',
		name: 'Float line',
		about: 'Floats along a rope, each swollen by its own distance to the net.',
		file: floatLine,
		picture: '/samples/float-line.webp'
	},
	{
		id: 'shingled-roof',
		name: 'Shingled roof',
		about: 'A repeat in a repeat: courses of shingles that weather by their height.',
		file: shingledRoof,
		picture: '/samples/shingled-roof.webp'
	},
	{
		id: 'sedge-tussock',
		name: 'Sedge tussock',
		about: 'Strands, each with its own bend and its own place of the bend.',
		file: sedgeTussock,
		picture: '/samples/sedge-tussock.webp'
	},
	{
		id: 'sea-lavender',
		name: 'Sea lavender',
		about: 'Whorls of leaves, and sprays of flowers that turn to the light.',
		file: seaLavender,
		picture: '/samples/sea-lavender.webp'
	},
	{
		id: 'mangrove',
		name: 'Mangrove',
		about: 'Roots that arch into the mud and a crown, by two uses of one subgraph.',
		file: mangrove,
		picture: '/samples/mangrove.webp'
	},
	{
		id: 'lantern-post',
		name: 'Lantern post',
		about: 'One lantern or a cluster by a yes or no; the arm is tied to its post.',
		file: lanternPost,
		picture: '/samples/lantern-post.webp'
	},
	{
		id: 'tide-organ',
		name: 'Tide organ',
		about: 'Pipes that a drifting swell lifts; a zone with keys calms them, and they swing back.',
		file: tideOrgan,
		picture: '/samples/tide-organ.webp'
	},
	{
		id: 'thatch',
		name: 'Thatch that lays itself',
		about: 'Bundles fly in course by course, latched by a zone that sweeps the roof.',
		file: thatch,
		picture: '/samples/thatch.webp'
	},
	{
		id: 'lantern-string',
		name: 'Lantern string',
		about: 'A gust by keys; each lantern swings later than the one before it.',
		file: lanternString,
		picture: '/samples/lantern-string.webp'
	},
	{
		id: 'stilt-platform',
		name: 'Stilt platform',
		about: 'A footprint of your own, and storeys that stand on each other by ties.',
		file: stiltPlatform,
		picture: '/samples/stilt-platform.webp'
	},
	{
		id: 'painted-sign',
		name: 'Painted sign',
		about: 'Letters and a drawn wave, cut out and lifted along a gust.',
		file: paintedSign,
		picture: '/samples/painted-sign.webp'
	}
];
