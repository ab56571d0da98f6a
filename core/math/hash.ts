/** 128-bit hashes of content: cache keys and result digests. Not for secrets. */
import { scramble } from './mix.ts';

const float = new Float64Array(1);
const bits = new Uint32Array(float.buffer);

/** Collects words, numbers, texts and arrays, and gives a 32-digit hexadecimal digest. */
export class Hasher {
	#a = 0x243f6a88;
	#b = 0x85a308d3 | 0;
	#c = 0x13198a2e;
	#d = 0x03707344;

	word(x: number): this {
		this.#a = (Math.imul(this.#a ^ x, 0x9e3779b1) + this.#d) | 0;
		this.#b = (Math.imul(this.#b + x, 0x85ebca6b) ^ (this.#a >>> 15)) | 0;
		this.#c = (Math.imul(this.#c ^ (x >>> 7) ^ (x << 9), 0xc2b2ae35) + this.#b) | 0;
		this.#d = (Math.imul(this.#d + (x ^ 0x27d4eb2f), 0x165667b1) ^ (this.#c >>> 13)) | 0;
		return this;
	}

	/** A number by its bits; every NaN and both zeros count as one. */
	number(x: number): this {
		if (x !== x) return this.word(0x7ff80000).word(0);
		float[0] = x === 0 ? 0 : x;
		return this.word(bits[0]).word(bits[1]);
	}

	text(text: string): this {
		for (let i = 0; i < text.length; i++) this.word(text.charCodeAt(i));
		return this.word(text.length ^ 0x5bd1e995);
	}

	/** The elements of a typed array, by their bits; `pollAt` is called at each, so that long ones can be stopped. Floats are made canonical: one NaN, no negative zero. */
	array(data: ArrayLike<number> & ArrayBufferView, pollAt: (i: number) => void = () => {}): this {
		const n = data.length;
		this.word(n);
		if (data instanceof Float32Array) {
			const own = new Uint32Array(data.buffer, data.byteOffset, n);
			for (let i = 0; i < n; i++) {
				pollAt(i);
				const x = own[i];
				const isNaNBits = (x & 0x7f800000) === 0x7f800000 && (x & 0x007fffff) !== 0;
				this.word(isNaNBits ? 0x7fc00000 : x === 0x80000000 ? 0 : x);
			}
		} else if (data instanceof Float64Array)
			for (let i = 0; i < n; i++) {
				pollAt(i);
				this.number(data[i]);
			}
		else
			for (let i = 0; i < n; i++) {
				pollAt(i);
				this.word(data[i]);
			}
		return this;
	}

	#words(): [number, number, number, number] {
		return [
			scramble(this.#a ^ this.#c),
			scramble((this.#b + this.#a) | 0),
			scramble(this.#c ^ this.#d),
			scramble((this.#d + this.#b) | 0)
		];
	}

	/** The 128 bits as 32 hexadecimal digits, to be shown and written. */
	digest(): string {
		return this.#words()
			.map((word) => (word >>> 0).toString(16).padStart(8, '0'))
			.join('');
	}

	/** The same bits in eight characters: for keys within the program, of which there are many. */
	key(): string {
		const [a, b, c, d] = this.#words();
		return String.fromCharCode(
			a >>> 16,
			a & 0xffff,
			b >>> 16,
			b & 0xffff,
			c >>> 16,
			c & 0xffff,
			d >>> 16,
			d & 0xffff
		);
	}
}
