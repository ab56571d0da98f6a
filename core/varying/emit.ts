/** Gives the places of a program registers, and makes each instruction a loop over a block of them. */
import { addressOf, formulas, patternAt, registersFor } from '../wasm/formulas.ts';
import type { Instruction, NoiseLoop, Program } from './instructions.ts';
import { LOOPS } from './loops.ts';
import { patternOf } from './noise.ts';
import { readRamp } from './ramp.ts';
import type { Step } from './steps.ts';
import { colourStep, columnStep, idStep, indexStep, listStep, randomStep } from './steps.ts';
import { readerOf } from './varying.ts';

export interface Emitted {
	steps: Step[];
	/** Registers that hold a constant throughout, with it. */
	constants: { register: number; value: number }[];
	registers: number;
	/** Where the result stands: one register, or three. */
	result: number[];
}

/** Registers are used again when nothing reads them any more; constants keep theirs. */
export function emit({ instructions, constants, result }: Program): Emitted {
	const lastRead = new Map<number, number>();
	instructions.forEach(({ ins }, i) => ins.forEach((place) => lastRead.set(place, i)));
	for (const place of result) lastRead.set(place, Infinity);
	const registerOf = new Map<number, number>();
	const idle: number[] = [];
	const held: Emitted['constants'] = [];
	let registers = 0;
	const read = (place: number): number => {
		let register = registerOf.get(place);
		if (register === undefined) {
			// What was not written is a constant.
			registerOf.set(place, (register = registers++));
			held.push({ register, value: constants.get(place)! });
			lastRead.set(place, Infinity);
		}
		return register;
	};
	const steps = instructions.map((one, i) => {
		const ins = one.ins.map(read);
		// Loops write while they read: what comes out never stands where something goes in.
		const outs = one.outs.map((place) => {
			const register = idle.pop() ?? registers++;
			registerOf.set(place, register);
			return register;
		});
		for (const place of new Set([...one.ins, ...one.outs]))
			if ((lastRead.get(place) ?? i) <= i) idle.push(registerOf.get(place)!);
		return stepOf(one, ins, outs);
	});
	return { steps, result: result.map(read), constants: held, registers };
}

/** What an instruction gives for one element, with numbers that are known. */
export function valuesOf(instruction: Instruction, known: readonly number[]): number[] {
	const ins = known.map((_, i) => i);
	const outs = instruction.outs.map((_, i) => known.length + i);
	const registers = registersFor(known.length + outs.length);
	known.forEach((value, i) => registers[i].fill(value, 0, 4));
	stepOf(instruction, ins, outs)(0, 1, registers);
	return outs.map((register) => registers[register][0]);
}

/** One instruction as a loop over registers. */
function stepOf(one: Instruction, ins: readonly number[], outs: readonly number[]): Step {
	const o = outs[0];
	switch (one.op) {
		case 'loop':
			return loopStep(one.loop, o, ins);
		case 'index':
			return indexStep(o);
		case 'ids':
			return idStep(o, one.ids);
		case 'column':
			return columnStep(outs, one.column);
		case 'list':
			return listStep(outs, one.list);
		case 'random':
			return randomStep(o, ins[0], ins[1], one.stream, one.whole, one.ids);
		case 'colour':
			return colourStep(outs, ins);
		case 'field': {
			const read = readerOf(one.field);
			const [x, y, z] = ins;
			return (_start, n, r) => read(n, r[o], r[x], r[y], r[z]);
		}
		case 'ramp': {
			const width = outs.length as 1 | 3;
			return (_start, n, r) =>
				readRamp(
					one.table,
					width,
					n,
					r[ins[0]],
					outs.map((k) => r[k])
				);
		}
		case 'normalize': {
			const [ox, oy, oz, x, y, z] = [...outs, ...ins].map(addressOf);
			const { normalize } = formulas();
			return (_start, n) => normalize(n, ox, oy, oz, x, y, z);
		}
		case 'noise':
			return noiseStep(one.of, one.seed, o, ins);
	}
}

/** The elementary functions are ours and run here; what is cheap runs in the module. */
function loopStep(loop: string, out: number, ins: readonly number[]): Step {
	const [a, b = a, c = a] = ins;
	const slow = LOOPS[loop];
	if (slow) return (_start, n, r) => slow(n, r[out], r[a], r[b]);
	const fast = formulas()[loop as 'multiplyAdd'];
	const [o, x, y, z] = [out, a, b, c].map(addressOf);
	return (_start, n) => fast(n, o, x, y, z);
}

function noiseStep(of: NoiseLoop, seed: number, out: number, ins: readonly number[]): Step {
	const order = patternOf(seed);
	const [o, x, y, z, ...more] = [out, ...ins].map(addressOf);
	switch (of) {
		case 'noise':
		case 'cells': {
			const noise = formulas()[of];
			return (_start, n) => noise(n, o, patternAt(order), x, y, z);
		}
		case 'fractal':
		case 'ridged': {
			const noise = formulas()[of];
			const [octaves, lacunarity, gain] = more;
			return (_start, n) => noise(n, o, patternAt(order), x, y, z, octaves, lacunarity, gain);
		}
		case 'cells4': {
			const { cells4 } = formulas();
			const [w, period] = more;
			return (_start, n) => cells4(n, o, patternAt(order), x, y, z, w, period);
		}
		case 'fractal4':
		case 'ridged4': {
			const noise = formulas()[of];
			const [w, period, octaves, lacunarity, gain] = more;
			return (_start, n) => noise(n, o, patternAt(order), x, y, z, w, period, octaves, lacunarity, gain);
		}
	}
}
