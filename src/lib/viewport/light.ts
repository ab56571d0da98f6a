/** The light of the View: the sun and the sky, and how the refined picture samples them. Knows no three. */

/** Light as it is kept with a generator. */
export interface Light {
	/** Degrees of the sun above the horizon, 5 to 90. */
	height: number;
	/** Degrees clockwise from the north, which lies towards −z, to where the sun stands. */
	direction: number;
	shadow: boolean;
	/** Stops: each one more doubles the light. */
	exposure: number;
}

export const USUAL_LIGHT: Light = { height: 46, direction: 205, shadow: true, exposure: 0 };

export type Way = readonly [number, number, number];

/** Irradiance on a surface that faces the sun, and from the whole sky and the ground, in units where π is white. */
export const SUN: Way = [2.05, 1.93, 1.72];
export const SKY: Way = [1.3, 1.38, 1.5];
export const GROUND: Way = [0.62, 0.56, 0.47];

/** The sun looks larger than it is, so that the edges of shadows are as soft as on a hazy day: degrees from its middle. */
const SUN_RADIUS = 5.2;
/** How many pictures are gathered, and how many where each takes long: eights. */
export const SAMPLES = 64;
export const FEW_SAMPLES = 32;
/** How many of them are lit by the sun; each of the others is by a piece of the sky. */
export const ofSun = (samples: number): number => (3 * samples) / 8;
export const ofSky = (samples: number): number => (5 * samples) / 8;

const RADIANS = Math.PI / 180;
const GOLDEN = Math.PI * (3 - Math.sqrt(5));
/** The plastic number's powers: a sequence in the square that is even however long it runs (Roberts 2018). */
const R2 = [0.7548776662466927, 0.5698402909980532] as const;
const part = (x: number): number => x - Math.floor(x);

/** The way to the sun. */
export function sunWay({ height, direction }: Pick<Light, 'height' | 'direction'>): Way {
	const up = Math.sin(height * RADIANS),
		flat = Math.cos(height * RADIANS);
	return [flat * Math.sin(direction * RADIANS), up, -flat * Math.cos(direction * RADIANS)];
}

/** Where within its pixel sample `i` looks, from −0.5 to 0.5 both ways. The first looks through the middle. */
export const jitterOf = (i: number): readonly [number, number] => [
	part(0.5 + i * R2[0]) - 0.5,
	part(0.5 + i * R2[1]) - 0.5
];

/** The `i`th of `count` ways to the sun, spread evenly over its disc. */
export function overSun(light: Pick<Light, 'height' | 'direction'>, i: number, count: number): Way {
	const [x, y, z] = sunWay(light);
	const rank = scattered(i, count);
	const far = Math.tan(SUN_RADIUS * RADIANS) * Math.sqrt((rank + 0.5) / count);
	const turn = rank * GOLDEN;
	// Two ways across: one level, one towards the zenith.
	const flat = Math.hypot(x, z);
	const across: Way = flat > 1e-6 ? [z / flat, 0, -x / flat] : [1, 0, 0];
	const over: Way = [
		y * across[2] - z * across[1],
		z * across[0] - x * across[2],
		x * across[1] - y * across[0]
	];
	return unit(
		[0, 1, 2].map((k) => [x, y, z][k] + far * (Math.cos(turn) * across[k] + Math.sin(turn) * over[k]))
	);
}

/** The `i`th of `count` ways to the sky, each standing for as much of the dome as any other. */
export function overSky(i: number, count: number): Way {
	const rank = scattered(i, count);
	const up = (rank + 0.5) / count;
	const flat = Math.sqrt(1 - up * up);
	return [flat * Math.cos(rank * GOLDEN), up, flat * Math.sin(rank * GOLDEN)];
}

/** What lights picture `i`: three of eight the sun, in between the sky; and the how-manieth of its kind that it is. */
export function turnOf(i: number): { sun: boolean; nth: number } {
	const eights = Math.floor(i / 8),
		k = i % 8;
	const suns = (k > 0 ? 1 : 0) + (k > 3 ? 1 : 0) + (k > 6 ? 1 : 0);
	return k === 0 || k === 3 || k === 6
		? { sun: true, nth: 3 * eights + suns }
		: { sun: false, nth: 5 * eights + k - suns };
}

/** All numbers below `count`, each once, any run of them spread over the whole: steps by the golden section of it. */
function scattered(i: number, count: number): number {
	let step = Math.max(1, Math.round(count * 0.618));
	while (step > 1 && !isCoprime(step, count)) step--;
	return (i * step) % count;
}
function isCoprime(a: number, b: number): boolean {
	while (b) [a, b] = [b, a % b];
	return a === 1;
}

function unit([x, y, z]: readonly number[]): Way {
	const length = Math.hypot(x, y, z);
	return [x / length, y / length, z / length];
}
