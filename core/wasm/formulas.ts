/** The module that formulas run in, with its memory: a place for patterns, one for singles, and registers. */
import { FORMULAS } from './binaries.ts';
import { PAGE, instanceOf, makeMemory } from './instance.ts';
import type { Memory } from './instance.ts';

type Unary = (n: number, o: number, a: number) => void;
type Binary = (n: number, o: number, a: number, b: number) => void;
type Ternary = (n: number, o: number, a: number, b: number, c: number) => void;
type Place = (n: number, o: number, order: number, x: number, y: number, z: number) => void;
type Octaves = (
	n: number,
	o: number,
	order: number,
	x: number,
	y: number,
	z: number,
	octaves: number,
	lacunarity: number,
	gain: number
) => void;

type Drifting = (
	n: number,
	o: number,
	order: number,
	x: number,
	y: number,
	z: number,
	w: number,
	period: number
) => void;
type DriftingOctaves = (
	n: number,
	o: number,
	order: number,
	x: number,
	y: number,
	z: number,
	w: number,
	period: number,
	octaves: number,
	lacunarity: number,
	gain: number
) => void;

/** See ./assembly/loops.ts and ./assembly/noise.ts. Numbers other than `n` are addresses. */
export interface Formulas
	extends
		Record<'negate' | 'sqrt' | 'abs' | 'floor' | 'ceil' | 'round' | 'fract' | 'sign' | 'not', Unary>,
		Record<
			| 'add'
			| 'subtract'
			| 'multiply'
			| 'divide'
			| 'mod'
			| 'min'
			| 'max'
			| 'step'
			| 'less'
			| 'atMost'
			| 'equal'
			| 'and'
			| 'or',
			Binary
		>,
		Record<'multiplyAdd' | 'clamp' | 'mix' | 'smoothstep' | 'choose' | 'length3', Ternary>,
		Record<'noise' | 'cells', Place>,
		Record<'fractal' | 'ridged', Octaves>,
		Record<'cells4', Drifting>,
		Record<'fractal4' | 'ridged4', DriftingOctaves> {
	normalize(n: number, ox: number, oy: number, oz: number, x: number, y: number, z: number): void;
	loadFloats(n: number, from: number, o: number): void;
	loadVectors(n: number, from: number, x: number, y: number, z: number): void;
	storeFloats(n: number, to: number, a: number): number;
	storeVectors(n: number, to: number, x: number, y: number, z: number): number;
}

/** Elements in a block. */
export const BLOCK = 256;
/** Bytes of a register: a block and a little more, because loops go in fours. */
const REGISTER = 8 * (BLOCK + 4);

// The compiler's own data lies below 4 kB; then eight patterns of 512 bytes, a block of vectors, and the registers.
const PATTERNS = 4096;
const PATTERN_BYTES = 512;
const PATTERN_PLACES = 8;
const STAGE = 8192;
const REGISTERS = 16384;

/** Where singles are put for `loadFloats` and its kin, and taken from. */
export const stageAt = STAGE;
/** The address of a register. */
export const addressOf = (register: number): number => REGISTERS + register * REGISTER;

let memory: Memory | null = null;
let loops: Formulas | null = null;
let stage = new Float32Array(0);
let registers: Float64Array[] = [];

/** Made when first asked for: a page that only lists generators needs neither memory nor loops. */
const ownMemory = (): Memory => (memory ??= makeMemory(16 * PAGE));

/** The loops; compiled when first asked for. */
export const formulas = (): Formulas => (loops ??= instanceOf<Formulas>(FORMULAS, ownMemory()));

/** The first registers, at least `count` of them, as arrays. They stay good until more are asked for. */
export function registersFor(count: number): readonly Float64Array[] {
	const memory = ownMemory();
	const missing = addressOf(count) - memory.buffer.byteLength;
	if (missing > 0) {
		memory.grow(Math.ceil(missing / PAGE));
		registers = [];
	}
	if (stage.buffer !== memory.buffer) stage = new Float32Array(memory.buffer, STAGE, 3 * BLOCK + 8);
	for (let i = registers.length; i < count; i++)
		registers.push(new Float64Array(memory.buffer, addressOf(i), BLOCK + 4));
	return registers;
}

/** The place for singles, a block of vectors long; good after `registersFor`. */
export const stageArray = (): Float32Array => stage;

const patterns: (Uint8Array | null)[] = new Array(PATTERN_PLACES).fill(null);
let nextPattern = 0;

/** The address of a permutation of 0 … 255 twice over (512 bytes), copied in unless it is there. */
export function patternAt(order: Uint8Array): number {
	let place = patterns.indexOf(order);
	if (place < 0) {
		place = nextPattern++ % PATTERN_PLACES;
		patterns[place] = order;
		new Uint8Array(ownMemory().buffer, PATTERNS + place * PATTERN_BYTES, PATTERN_BYTES).set(order);
	}
	return PATTERNS + place * PATTERN_BYTES;
}
