/** Makes a program shorter: a product goes into the sum that follows, and what nobody reads is left out. */
import type { Instruction, Program } from './instructions.ts';

/** The same program with fewer loops; every result is the same to the bit. */
export const fuse = (program: Program): Program => withoutUnread(withSumsOfProducts(program));

/** Sums of a product that is read nowhere else, as one loop. */
function withSumsOfProducts(program: Program): Program {
	const reads = readsOf(program);
	const products = new Map<number, Instruction>();
	const taken = new Set<Instruction>();
	const instructions = program.instructions.map((one): Instruction => {
		if (one.op !== 'loop') return one;
		if (one.loop === 'multiply') products.set(one.outs[0], one);
		if (one.loop !== 'add') return one;
		// x + y is y + x, so either may be the product.
		const [a, b] = one.ins;
		for (const [place, other] of [
			[a, b],
			[b, a]
		]) {
			const product = products.get(place);
			if (!product || reads.get(place) !== 1) continue;
			taken.add(product);
			return { ...one, loop: 'multiplyAdd', ins: [...product.ins, other] };
		}
		return one;
	});
	return { ...program, instructions: instructions.filter((one) => !taken.has(one)) };
}

function withoutUnread(program: Program): Program {
	const wanted = new Set(program.result);
	const kept: Instruction[] = [];
	for (let i = program.instructions.length - 1; i >= 0; i--) {
		const one = program.instructions[i];
		if (!one.outs.some((place) => wanted.has(place))) continue;
		for (const place of one.ins) wanted.add(place);
		kept.push(one);
	}
	return { ...program, instructions: kept.reverse() };
}

/** How often each place is read; a result is read once more. */
function readsOf({ instructions, result }: Program): Map<number, number> {
	const reads = new Map<number, number>();
	const read = (place: number) => reads.set(place, (reads.get(place) ?? 0) + 1);
	for (const { ins } of instructions) ins.forEach(read);
	result.forEach(read);
	return reads;
}
