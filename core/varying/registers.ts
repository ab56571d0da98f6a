/** The registers of a plan: handed out, given back when nothing reads them any more, and used again. */

/** A product that was made and not yet taken into a sum. */
interface Product {
	/** The place of its step. */
	step: number;
	/** The registers that are multiplied. */
	a: number;
	b: number;
	/** How many registers had been handed out when the value it belongs to was done; −1 before that. */
	handedOut: number;
}

export class Registers {
	/** How many there are. */
	count = 0;
	/** Those that hold a constant throughout, with it. */
	readonly constants: { register: number; value: number }[] = [];
	#idle: number[] = [];
	/** How many values hold each register: parts of vectors share theirs. */
	#holders: number[] = [];
	#constantAt = new Map<number, number>();
	#fixed = new Set<number>();
	/** Products by their registers, so that a sum can take them in. */
	#products = new Map<number, Product>();
	/** How often a register was handed out: as long as it stands still, no source of a product was overwritten. */
	#handedOut = 0;

	/** A register to write to. */
	take(): number {
		this.#handedOut++;
		const idle = this.#idle.pop();
		if (idle === undefined) return this.count++;
		this.#products.delete(idle);
		return idle;
	}

	/** The register of a constant: the same for the same number. */
	constant(value: number): number {
		const key = Object.is(value, -0) ? -Infinity : value !== value ? Infinity : value;
		let register = this.#constantAt.get(key);
		if (register === undefined || !(Number.isFinite(value) && !Object.is(value, -0))) {
			register = this.count++;
			this.constants.push({ register, value });
			this.#fixed.add(register);
			this.#constantAt.set(key, register);
		}
		return register;
	}

	/** A value is done and holds its registers. Its products are those that end in them. */
	hold(registers: readonly number[]): void {
		// Of the value that makes a product, not of a vector that it becomes a part of later.
		for (const register of registers) {
			const product = this.#products.get(register);
			if (product && product.handedOut < 0) product.handedOut = this.#handedOut;
		}
		for (const register of registers) this.#holders[register] = (this.#holders[register] ?? 0) + 1;
	}

	/** A value that nothing will read again lets its registers go. */
	release(registers: readonly number[]): void {
		for (const register of registers) if (--this.#holders[register] <= 0) this.discard(register);
	}

	/** Gives back a register that no value holds. */
	discard(register: number): void {
		if (!this.#fixed.has(register)) this.#idle.push(register);
	}

	/** Notes that a register is the product of two others, made by a step. */
	noteProduct(register: number, step: number, a: number, b: number): void {
		this.#products.set(register, { step, a, b, handedOut: -1 });
	}

	/**
	 * The product in a register, where one value holds it and nothing was written since: then a sum may take it in, and
	 * the register holds the sum from there on, so that no further sum takes it in once more.
	 */
	takeProduct(register: number): Product | null {
		const product = this.#products.get(register);
		if (!product || product.handedOut !== this.#handedOut || this.#holders[register] !== 1) return null;
		this.#products.delete(register);
		return product;
	}
}
