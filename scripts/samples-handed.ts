/** What each sample hands to its users: dials, slots, presets and kept variations. */
import type { Dial, GeneratorDocument, Setting } from '../core/engine/index.ts';
import {
	valuesOf,
	isRange,
	settled,
	withDialChanged,
	withDialFor,
	withDialValues,
	withMaterialDial,
	withSlot,
	withSlotChanged,
	withTie
} from '../core/engine/index.ts';

interface Handed {
	/** The setting (`node.setting`; of a material `node.*`), the dial's key, its name, what it does, and what else is said of it. */
	dials: readonly (readonly [place: string, key: string, name: string, help: string, more: Partial<Dial>])[];
	/** Two settings, and what each is of the other. */
	ties?: readonly (readonly [a: string, b: string, toB: string, toA: string])[];
	/** The node, the slot's name, and what a user shall put there. */
	slots?: readonly (readonly [node: string, name: string, help: string])[];
	presets: Readonly<Record<string, Readonly<Record<string, Setting>>>>;
	/** Seeds worth keeping, by name. */
	kept: Readonly<Record<string, number>>;
}

const span = (low: number, high: number, step?: number): Partial<Dial> => ({
	low,
	high,
	...(step && { step })
});
const between = (low: number, high: number): Setting => ({ low, high, stream: 'handed' });

const painted = (
	name: string,
	colour: [number, number, number],
	roughness: number,
	metallic = 0
): Setting => ({
	material: { name, colour, roughness, metallic, twoSided: false }
});

const HANDED: Readonly<Record<string, Handed>> = {
	'Reed bed': {
		dials: [
			[
				'sowing.density',
				'density',
				'Reeds to a square metre',
				'How thickly the reeds stand where they are thickest.',
				{ ...span(5, 200, 1), group: 'Reeds' }
			],
			[
				'sowing.minimumDistance',
				'apart',
				'Never nearer than',
				'No two reeds stand closer than this.',
				{ ...span(0, 0.3, 0.005), group: 'Reeds' }
			],
			[
				'relief.low',
				'deepest',
				'Deepest creek',
				'How far the creeks cut down into the mud.',
				{ ...span(-1, 0, 0.01), unit: 'm', group: 'Mud' }
			],
			[
				'relief.high',
				'highest',
				'Highest bank',
				'How far the banks rise.',
				{ ...span(0, 1, 0.01), unit: 'm', group: 'Mud' }
			]
		],
		presets: {
			'Thick bed': { density: 110, apart: 0.03, deepest: -0.35, highest: 0.4 },
			'After the mowing': { density: 24, apart: 0.12, deepest: -0.35, highest: 0.4 },
			'Deep creeks': { density: 90, apart: 0.03, deepest: -0.8, highest: 0.55 }
		},
		kept: { 'Ragged edge': 12, 'Two hollows': 31, 'Level ground': 58 }
	},
	Boardwalk: {
		dials: [
			[
				'walkLength.value',
				'length',
				'Length',
				'How far the boardwalk goes.',
				{ ...span(4, 30, 0.1), unit: 'm', min: 1 }
			],
			[
				'plankPlaces.spacing',
				'planks',
				'From plank to plank',
				'From the middle of one plank to the next: closer planks leave narrower gaps.',
				{ ...span(0.12, 0.5, 0.01), group: 'Wood' }
			],
			[
				'postPlaces.spacing',
				'posts',
				'From post to post',
				'How far apart the pairs of posts stand.',
				{ ...span(0.6, 4, 0.05), group: 'Wood' }
			],
			[
				'beam.radius',
				'beams',
				'Radius of the beams',
				'How stout the two beams under the planks are.',
				{ ...span(0.02, 0.15, 0.005), group: 'Wood' }
			]
		],
		presets: {
			'To the landing': { length: 12, planks: 0.21, posts: 1.5, beams: 0.05 },
			'Across the creek': { length: 24, planks: 0.21, posts: 2.4, beams: 0.08 },
			'Short and old': { length: 6, planks: 0.34, posts: 1.1, beams: 0.05 }
		},
		kept: { 'Sagging in the middle': 3, 'Nearly straight': 14, 'Bent to the sea': 27 }
	},
	'Rope rail': {
		dials: [
			[
				'postPlaces.spacing',
				'posts',
				'From post to post',
				'How far apart the posts of the rail stand.',
				{ ...span(0.6, 4, 0.05) }
			],
			[
				'post.height',
				'tall',
				'Height of the posts',
				'From the ground to the top of each post.',
				{ ...span(0.5, 2, 0.01) }
			],
			[
				'three.count',
				'strands',
				'Strands of the rope',
				'How many strands are laid into the rope.',
				{ ...span(2, 6, 1), min: 2, max: 6 }
			],
			[
				'rope.radius',
				'thick',
				'Radius of a strand',
				'How thick each strand is.',
				{ ...span(0.005, 0.04, 0.001) }
			]
		],
		slots: [['course', 'Course', 'The line along which the rail runs, seen from above.']],
		presets: {
			Landing: { posts: 1.6, tall: 1.05, strands: 3, thick: 0.017 },
			'Low and light': { posts: 2.4, tall: 0.7, strands: 2, thick: 0.012 },
			'Heavy mooring': { posts: 1.2, tall: 1.3, strands: 4, thick: 0.026 }
		},
		kept: { 'Even sag': 5, 'One slack bay': 19, 'Tight at the stairs': 44 }
	},
	'Worn bollard': {
		dials: [
			[
				'wraps.value',
				'wraps',
				'Turns of rope',
				'How many times the rope goes round.',
				{ ...span(0, 24, 1), kind: 'whole', min: 0, max: 40 }
			],
			[
				'rope.radius',
				'thick',
				'Radius of the rope',
				'How thick the rope is.',
				{ ...span(0.008, 0.04, 0.001) }
			],
			[
				'grooves.strength',
				'worn',
				'How deeply it is worn',
				'How deeply the rope has worn into the wood.',
				{ ...span(0, 2, 0.05) }
			],
			[
				'rough.amount',
				'rough',
				'How rough the wood is',
				'How rough the surface of the wood is.',
				{ ...span(0, 0.02, 0.001) }
			]
		],
		slots: [['profile', 'Profile', 'Half of its outline, from the foot up.']],
		presets: {
			'In use': { wraps: 14, thick: 0.02, worn: 1, rough: 0.004 },
			'Long forgotten': { wraps: 4, thick: 0.02, worn: 1.8, rough: 0.014 },
			'Set last spring': { wraps: 9, thick: 0.026, worn: 0.2, rough: 0.001 }
		},
		kept: { 'Rubbed on one side': 8, 'Rubbed all round': 21, 'A deep groove': 33 }
	},
	'Drying net': {
		dials: [
			[
				'mesh.value',
				'mesh',
				'Width of a mesh',
				'Width of one mesh: smaller ones take more cord.',
				{ ...span(0.1, 0.6, 0.01), unit: 'm', min: 0.05 }
			],
			[
				'tall.value',
				'tall',
				'Height of the net',
				'From the head rope down to the lower edge.',
				{ ...span(0.5, 3, 0.05), unit: 'm', min: 0.2 }
			],
			[
				'slack.value',
				'slack',
				'Slack of the head rope',
				'How far the head rope hangs down between its ends.',
				{ ...span(0, 1, 0.01), unit: 'm' }
			],
			[
				'spots.spacing',
				'floats',
				'From float to float',
				'How far apart the floats are strung.',
				{ ...span(0.2, 2, 0.01) }
			]
		],
		slots: [['course', 'Course', 'The line along which the net hangs, seen from above.']],
		presets: {
			'Eel net': { mesh: 0.24, tall: 1.45, slack: 0.42, floats: 0.52 },
			'Wide mesh': { mesh: 0.42, tall: 1.9, slack: 0.55, floats: 0.9 },
			'Drawn tight': { mesh: 0.2, tall: 1.1, slack: 0.08, floats: 0.4 }
		},
		kept: { 'In a light breeze': 5, 'Blown to one end': 23, 'Hanging still': 61 }
	},
	'Drying rack': {
		dials: [
			[
				'skinsToBar.value',
				'skins',
				'Skins to a bar',
				'How many fish skins hang on each bar, evenly along it.',
				{ ...span(1, 60, 1), kind: 'whole', min: 1, max: 400 }
			],
			[
				'lowest.value',
				'lowest',
				'Height of the lowest bar',
				'How high the lowest bar lies; the others share the way up from there.',
				{ ...span(0.2, 2, 0.05), unit: 'm', min: 0 }
			],
			[
				'tall.value',
				'height',
				'Height of the trestles',
				'How tall the trestles stand.',
				{ ...span(1.2, 4, 0.05), unit: 'm', min: 0.4 }
			]
		],
		slots: [
			['course', 'Path', 'The line along which the rack runs, seen from above. Everything follows it.']
		],
		presets: {
			'Full of fish': { skins: 26, lowest: 0.75, height: 2.3 },
			'Low and sparse': { skins: 9, lowest: 0.5, height: 1.6 },
			'Above the flood': { skins: 18, lowest: 1.6, height: 3.4 }
		},
		kept: { 'A good morning': 4, 'Half taken down': 17, 'Before the rain': 52 }
	},
	'Oyster plots': {
		dials: [
			[
				'places.spacing',
				'stakes',
				'From stake to stake',
				'How far apart the stakes stand along the tide line.',
				{ ...span(0.4, 2, 0.05) }
			],
			[
				'stake.height',
				'tall',
				'Height of a stake',
				'How far each stake stands out of the mud.',
				{ ...span(0.4, 2, 0.05) }
			],
			[
				'sowing.density',
				'shells',
				'Shells to a square metre',
				'How thickly the shells lie where they are thickest.',
				{ ...span(5, 120, 1) }
			]
		],
		presets: {
			'Second summer': { stakes: 0.8, tall: 1.2, shells: 55 },
			'Newly set': { stakes: 0.6, tall: 1.3, shells: 8 },
			'To be cleared': { stakes: 1.3, tall: 0.8, shells: 100 }
		},
		kept: { 'Even rows': 11, 'A gap by the creek': 26, 'Crowded end': 40 }
	},
	'Shell drift': {
		dials: [
			[
				'sowing.density',
				'shells',
				'Shells to a square metre',
				'How thickly the shells lie along the tide line.',
				{ ...span(5, 200, 1) }
			],
			[
				'shells.scale',
				'size',
				'Their size',
				'How large the shells are; 1 is life size.',
				{ ...span(0.2, 2.5, 0.05), unit: '×', min: 0.05 }
			],
			[
				'rippled.strength',
				'ripples',
				'Height of the ripples',
				'How high the ripples of the sand are.',
				{ ...span(0, 3, 0.05) }
			]
		],
		slots: [['waterline', 'Water’s edge', 'The line along which the shells lie.']],
		presets: {
			'After the spring tide': { shells: 85, size: between(0.65, 1.35), ripples: 1 },
			'Picked over': { shells: 18, size: between(0.3, 0.9), ripples: 1 },
			'Big ones': { shells: 40, size: between(1.2, 2), ripples: 1.8 }
		},
		kept: { 'Whelks to the left': 5, 'Blue mussels': 28, Scattered: 73 }
	},
	Glasswort: {
		dials: [
			[
				'plants.levels',
				'depth',
				'Joints one on another',
				'How many joints grow on top of each other: each one more doubles the work.',
				{ ...span(2, 9, 1), min: 0, max: 11 }
			],
			['sowing.count', 'many', 'Plants', 'How many plants stand on the mud.', { ...span(1, 40, 1) }],
			[
				'sowing.minimumDistance',
				'apart',
				'Never nearer than',
				'No two plants stand closer than this.',
				{ ...span(0, 0.3, 0.005) }
			]
		],
		presets: {
			August: { depth: 6, many: 10, apart: 0.03 },
			Seedlings: { depth: 3, many: 34, apart: 0.02 },
			'One old plant': { depth: 8, many: 1, apart: 0 }
		},
		kept: { 'A round clump': 3, 'Two by two': 9, 'Leaning north': 36 }
	},
	'Float line': {
		dials: [
			[
				'places.spacing',
				'apart',
				'From float to float',
				'How far apart the floats are strung.',
				{ ...span(0.15, 1, 0.01) }
			],
			[
				'cord.radius',
				'cord',
				'Radius of the cord',
				'How thick the cord is that carries the floats.',
				{ ...span(0.004, 0.03, 0.001) }
			],
			[
				'load.value',
				'load',
				'Load on a float',
				'How much hangs from each float: from next to nothing at 0 to all that the largest one bears at 1.',
				{ ...span(0, 1, 0.01), min: 0, max: 1 }
			]
		],
		slots: [['rope', 'Rope', 'The line on which the floats are strung.']],
		presets: {
			'Herring line': { apart: 0.3, cord: 0.012, load: between(0.04, 1) },
			'Light catch': { apart: 0.24, cord: 0.012, load: between(0.02, 0.2) },
			'Deep water': { apart: 0.6, cord: 0.02, load: between(0.5, 1) }
		},
		kept: { 'As tied': 2, 'Tied again': 15, 'By another hand': 47 }
	},
	'Shingled roof': {
		dials: [
			[
				'courses.passes',
				'courses',
				'Courses',
				'How many courses of shingles lie on each side.',
				{ ...span(3, 24, 1), min: 1, max: 60 }
			],
			[
				'wood.roughness',
				'rough',
				'Roughness of the shingles',
				'How rough the shingles are: 0 shines, 1 is chalk.',
				{ ...span(0, 1, 0.01) }
			]
		],
		presets: {
			'The net loft': { courses: 10 },
			'A small porch': { courses: 4 },
			'The long house': { courses: 18 }
		},
		kept: { 'Silvered evenly': 7, 'One dark patch': 24, 'New at the ridge': 55 }
	},
	'Sedge tussock': {
		dials: [
			[
				'tufts.count',
				'blades',
				'Blades of a tussock',
				'How many blades each tussock has.',
				{ ...span(20, 800, 1) }
			],
			[
				'blades.length',
				'length',
				'Their length',
				'How long the blades are.',
				{ ...span(0.1, 1.5, 0.01), min: 0.02 }
			],
			['blades.bend', 'bend', 'Their bend', 'How far the tip of a blade turns over.', { ...span(0, 160, 1) }],
			[
				'wisps.amount',
				'wisps',
				'How much they clump',
				'How closely the tips are drawn together; 0 leaves them apart.',
				{ ...span(0, 1, 0.01), min: 0, max: 1 }
			]
		],
		presets: {
			'High summer': { blades: 240, length: between(0.35, 0.85), bend: between(15, 95), wisps: 0.35 },
			'Beaten by rain': { blades: 240, length: between(0.35, 0.85), bend: between(80, 150), wisps: 0.7 },
			'Young and upright': { blades: 120, length: between(0.2, 0.45), bend: between(0, 35), wisps: 0.1 }
		},
		kept: { 'Four of a size': 8, 'A crown of seven': 29, 'Leaning together': 66 }
	},
	'Sea lavender': {
		dials: [
			['sowing.count', 'plants', 'Plants', 'How many plants stand in the meadow.', { ...span(1, 30, 1) }],
			[
				'sprays.angle',
				'angle',
				'Insertion angle of the sprays',
				'How far the sprays spread from their stem: 0 grows along it.',
				{ ...span(0, 90, 1) }
			],
			[
				'sprays.pull',
				'pull',
				'How they turn to the light',
				'How strongly the sprays turn to the light; below 0 they turn away.',
				{ ...span(-2, 3, 0.1) }
			],
			[
				'rosettes.count',
				'leaves',
				'Leaves of a rosette',
				'How many leaves lie around each foot.',
				{ ...span(3, 16, 1), min: 0 }
			]
		],
		presets: {
			'In flower': { plants: 6, angle: between(28, 52), leaves: between(6, 10) },
			'Wide sprays': { plants: 4, angle: between(55, 80), leaves: between(8, 13) },
			'A whole bank': { plants: 24, angle: between(25, 45), leaves: between(5, 8) }
		},
		kept: { 'Six apart': 4, 'One in front': 18, 'A thick group': 39 }
	},
	'Painted sign': {
		dials: [
			['letters.text', 'words', 'What it says', 'The words on the board.', {}],
			[
				'letters.size',
				'tall',
				'Height of the letters',
				'How tall the capital letters are.',
				{ ...span(0.2, 1, 0.01) }
			],
			[
				'outline.width',
				'wide',
				'Width of the board',
				'How wide the board is; the letters stay in its middle.',
				{ ...span(0.6, 6, 0.05), group: 'Board' }
			],
			['wood.*', 'board', 'The board', 'Colour and roughness of the board.', { group: 'Board' }],
			['gilt.*', 'paint', 'The letters', 'Colour, roughness and gilding of the letters.', { group: 'Board' }]
		],
		presets: {
			'Over the landing': {
				words: 'Saltreed',
				wide: 2.6,
				board: painted('Blue board', [0.05, 0.14, 0.17], 0.8),
				paint: painted('Old gilt', [0.62, 0.44, 0.14], 0.45, 0.5)
			},
			'The net loft': {
				words: 'Nets',
				wide: 1.6,
				board: painted('Tarred board', [0.06, 0.05, 0.045], 0.9),
				paint: painted('Chalk', [0.8, 0.78, 0.7], 0.95)
			},
			'Low water': {
				words: 'Ebb steps',
				wide: 3,
				board: painted('Red lead', [0.36, 0.08, 0.05], 0.7),
				paint: painted('Bone', [0.72, 0.66, 0.5], 0.6)
			}
		},
		kept: { 'A steady hand': 2, 'In a hurry': 16, 'On a windy day': 43 }
	},
	'Lantern post': {
		dials: [
			[
				'post.height',
				'tall',
				'Height of the post',
				'From the ground to the top of the post.',
				{ ...span(1.6, 5, 0.05), min: 0.8 }
			],
			[
				'cluster.value',
				'cluster',
				'A cluster of lanterns',
				'Several lanterns hang from the arm instead of one.',
				{ help: 'One lantern, or several of them.' }
			],
			[
				'some.value',
				'many',
				'How many',
				'How many lanterns hang in the cluster.',
				{
					...span(2, 9, 1),
					kind: 'whole',
					min: 1,
					max: 12,
					shownIf: 'cluster',
					help: 'Random, once for each seed.'
				}
			],
			['horn.*', 'pane', 'The panes', 'Glass or paper of the lanterns: colour, roughness and glow.', {}]
		],
		ties: [['post.height', 'reach.value', 'x * 0.3', 'x / 0.3']],
		presets: {
			'At the stairs': { tall: 2.8, cluster: false },
			'Over the landing': { tall: 3.6, cluster: true, many: between(3, 6) },
			'For the boats': {
				tall: 4.6,
				cluster: true,
				many: between(6, 9),
				pane: {
					material: {
						name: 'Red pane',
						colour: [0.7, 0.12, 0.07],
						roughness: 0.3,
						metallic: 0,
						twoSided: true
					}
				}
			}
		},
		kept: { 'Turned to the lane': 6, 'A short cord': 14, 'Nearly level': 35 }
	},
	'Tide organ': {
		dials: [
			[
				'swell.amount',
				'swell',
				'How high the swell lifts them',
				'How high the swell lifts the pipes.',
				{ ...span(0, 3, 0.05), min: 0, unit: 'm' }
			],
			[
				'swell.size',
				'wide',
				'How wide the swell is',
				'How far it is from one crest of the swell to the next.',
				{ ...span(1, 20, 0.1), min: 0.1, unit: 'm' }
			],
			[
				'swell.speed',
				'fast',
				'How fast it changes',
				'How fast the swell passes below the pipes.',
				{ ...span(0, 2, 0.05), min: 0 }
			],
			[
				'swinging.damping',
				'damping',
				'How soon they come to rest',
				'How soon the pipes come to rest; 0 lets them swing for ever.',
				{ ...span(0.5, 20, 0.1) }
			]
		],
		presets: {
			'Long swell': { swell: 1.3, wide: [4, 4, 4], fast: 0.5, damping: 3.5 },
			'Short chop': { swell: 0.8, wide: [2, 2, 2], fast: 1.3, damping: 9 },
			'Great rollers': { swell: 1.9, wide: [9, 9, 9], fast: 0.3, damping: 1.6 }
		},
		kept: { 'High in the middle': 7, 'Low at the heads': 21, 'An even tide': 40 }
	},
	'Thatch that lays itself': {
		dials: [
			[
				'courses.countX',
				'across',
				'Bundles in a course',
				'How many bundles lie side by side in a course.',
				{ ...span(4, 40, 1), min: 1 }
			],
			[
				'ragged.amount',
				'ragged',
				'How ragged the reed is',
				'How far the ends of the reed stray from their line.',
				{ ...span(0, 0.08, 0.002), min: 0, unit: 'm' }
			],
			[
				'flying.damping',
				'damping',
				'How softly they settle',
				'How softly the bundles settle; 0 lets them swing for ever.',
				{ ...span(2, 20, 0.1) }
			],
			['reed.*', 'reed', 'The reed', 'Colour and roughness of the reed.', {}]
		],
		presets: {
			'Fresh reed': { across: 26, ragged: 0.03, damping: 11 },
			'A narrow bay': { across: 12, ragged: 0.02, damping: 16 },
			'Weathered sedge': {
				across: 26,
				ragged: 0.06,
				damping: 7,
				reed: painted('Grey sedge', [0.33, 0.31, 0.27], 1)
			}
		},
		kept: { 'Straight from the cart': 3, 'A windy day': 14, 'Well combed': 29 }
	},
	'Lantern string': {
		dials: [
			[
				'places.spacing',
				'apart',
				'From lantern to lantern',
				'How far apart the lanterns hang.',
				{ ...span(0.3, 1.5, 0.01), min: 0.2 }
			],
			[
				'late.value',
				'late',
				'How late each one swings',
				'How much later each lantern swings than the one before.',
				{ ...span(0, 1.5, 0.05), min: 0 }
			],
			[
				'swinging.damping',
				'damping',
				'How soon they come to rest',
				'How soon the lanterns come to rest; 0 swings for ever.',
				{ ...span(0.5, 20, 0.1) }
			],
			['horn.*', 'pane', 'The panes', 'Glass or paper of the lanterns: colour, roughness and glow.', {}]
		],
		presets: {
			'Harbour feast': { apart: 0.5, late: 0.45, damping: 3 },
			'Few and heavy': { apart: 1.2, late: 0.8, damping: 1.2 },
			'Close together': {
				apart: 0.34,
				late: 0.2,
				damping: 8,
				pane: {
					material: {
						name: 'Blue pane',
						colour: [0.1, 0.28, 0.5],
						roughness: 0.3,
						metallic: 0,
						twoSided: true
					}
				}
			}
		},
		kept: { 'Turned alike': 5, 'Small ones in the middle': 17, 'Newly hung': 41 }
	},
	'Stilt platform': {
		dials: [
			[
				'deck.value',
				'deck',
				'Deck above the mud',
				'How high the deck stands above the mud.',
				{ ...span(0.4, 4, 0.05), unit: 'm', min: 0.1 }
			],
			[
				'lowerTop.value',
				'lower',
				'Top of the lower storey',
				'How high the walls of the lower storey reach.',
				{ ...span(1, 8, 0.05), unit: 'm' }
			],
			[
				'upperTop.value',
				'upper',
				'Top of the upper storey',
				'How high the walls of the upper storey reach.',
				{ ...span(1, 11, 0.05), unit: 'm' }
			],
			[
				'overhang.value',
				'overhang',
				'How far the upper one stands out',
				'How far the upper storey stands out over the lower one.',
				{ ...span(0, 1.2, 0.01), unit: 'm', min: 0 }
			],
			[
				'pilePlaces.spacing',
				'piles',
				'From pile to pile',
				'How far apart the piles stand.',
				{ ...span(0.6, 3, 0.05), min: 0.2 }
			],
			[
				'upperWood.*',
				'boards',
				'Boards of the upper storey',
				'Colour and roughness of the boards upstairs.',
				{}
			]
		],
		ties: [
			['deck.value', 'lowerBase.value', 'x', 'x'],
			['lowerBase.value', 'lowerTop.value', 'x + 2.2', 'x - 2.2'],
			['lowerTop.value', 'upperBase.value', 'x', 'x'],
			['upperBase.value', 'upperTop.value', 'x + 1.8', 'x - 1.8']
		],
		slots: [['footprint', 'Footprint', 'A closed curve, seen from above, that the house stands over.']],
		presets: {
			'Harbour house': { deck: 1.5, lower: 3.7, upper: 5.5, overhang: 0.28, piles: 1.3 },
			'Over deep water': { deck: 3.2, lower: 5.4, upper: 7.2, overhang: 0.1, piles: 0.8 },
			'Wide upper floor': {
				deck: 1.1,
				lower: 3.3,
				upper: 5.1,
				overhang: 0.9,
				piles: 1.6,
				boards: painted('Ox blood', [0.27, 0.05, 0.04], 0.75)
			}
		},
		kept: { 'Upright piles': 4, 'Leaning to the sea': 20, 'Crooked corner': 49 }
	},
	Mangrove: {
		dials: [
			[
				'props.count',
				'props',
				'Prop roots',
				'How many prop roots grow around the stem at each height.',
				{ ...span(3, 24, 1) }
			],
			[
				'crown.length',
				'crown',
				'Length of the limbs',
				'How far the limbs reach from the stem.',
				{ ...span(0.5, 3, 0.05), unit: 'm', min: 0.1 }
			],
			[
				'crown.levels',
				'levels',
				'Levels of branches',
				'How often the limbs branch: each level has many more twigs.',
				{ ...span(1, 3, 1), kind: 'whole', min: 0, max: 3 }
			],
			[
				'foliage.scale',
				'leaves',
				'Size of the leaves',
				'How large the leaves are; 1 is as they are drawn.',
				{ ...span(0.3, 2, 0.05), unit: '×', min: 0.05 }
			],
			['blade.colour', 'green', 'Colour of the leaves', 'What colour the leaves have.', {}]
		],
		presets: {
			Grown: { props: 11, crown: between(1.5, 2.1), levels: 2, leaves: between(0.7, 1.25) },
			Sapling: { props: 5, crown: between(0.7, 1), levels: 1, leaves: between(0.8, 1.3) },
			'Old and broad': { props: 20, crown: between(1.9, 2.6), levels: 2, leaves: between(0.6, 1) }
		},
		kept: { 'Leaning out': 6, 'Even crown': 22, 'Open to the west': 57 }
	}
};

/** A sample with all that it hands out. Ids and streams are fixed, so that it is the same each time it is made. */
export function handedOut(document: GeneratorDocument): GeneratorDocument {
	const handed = HANDED[document.name];
	if (!handed) throw new Error(`Nothing is handed out of ${document.name}.`);
	let made = document;
	const nodeOf = (short: string) => {
		const node = made.graphs.main.nodes.find((one) => one.short === short);
		if (!node) throw new Error(`${document.name} has no node ${short}.`);
		return node;
	};
	for (const [place, key, name, help, more] of handed.dials) {
		const [short, setting] = place.split('.');
		const at = { graph: 'main', node: nodeOf(short).id, setting };
		const before =
			setting === '*' ? withMaterialDial(made, { ...at, setting: 'name' }) : withDialFor(made, at);
		const named = withDialChanged(before.document, before.key, { ...more, key, name, help });
		const fixed = (value: Setting): Setting => (isRange(value) ? { ...value, stream: `dial ${key}` } : value);
		made = {
			...named,
			dials: named.dials.map((one) =>
				one.key === key ? { ...one, value: fixed(one.value), start: fixed(one.start) } : one
			)
		};
	}
	for (const [i, [a, b, toB, toA]] of (handed.ties ?? []).entries()) {
		const end = (place: string) => {
			const [short, setting] = place.split('.');
			return { graph: 'main', node: nodeOf(short).id, setting };
		};
		made = withTie(made, { id: `tie${i + 1}`, a: end(a), b: end(b), toB, toA });
	}
	for (const [short, name, help] of handed.slots ?? []) {
		made = withSlot(made, nodeOf(short).id);
		made = withSlotChanged(made, made.slots[made.slots.length - 1].key, { name, help });
	}
	const opening = valuesOf(made);
	const presets = Object.entries(handed.presets).map(([name, values], i) => ({
		id: `preset${i + 1}`,
		name,
		// What is not said is as it opens. Of a random range the stream is the dial's own.
		values: Object.fromEntries(
			Object.entries({ ...opening, ...values }).map(([key, value]) => [
				key,
				isRange(value) ? { ...value, stream: `dial ${key}` } : value
			])
		)
	}));
	const kept = Object.entries(handed.kept).map(([name, seed], i) => ({
		id: `kept${i + 1}`,
		name,
		seed,
		values: presets[0]?.values ?? {},
		...(presets.length && { preset: presets[0].id })
	}));
	const known = { ...made, presets, kept, ...(presets.length && { preset: presets[0].id }) };
	for (const { name, values } of presets)
		withDialValues(known, values, (sentence) => {
			throw new Error(`${document.name}, ${name}: ${sentence}`);
		});
	return settled(known, made);
}
