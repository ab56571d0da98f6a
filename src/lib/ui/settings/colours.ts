/** Colours between linear light, as documents hold them, and the screen's hexadecimal notation. */
const encode = (c: number) => (c <= 0.0031308 ? c * 12.92 : 1.055 * c ** (1 / 2.4) - 0.055);
const decode = (c: number) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);

export const toHex = (linear: readonly number[]): string =>
	'#' +
	linear
		.slice(0, 3)
		.map((c) =>
			Math.round(Math.max(0, Math.min(1, encode(c))) * 255)
				.toString(16)
				.padStart(2, '0')
		)
		.join('');

export const fromHex = (hex: string): [number, number, number] =>
	[1, 3, 5].map((i) => Number(decode(parseInt(hex.slice(i, i + 2), 16) / 255).toFixed(4))) as [
		number,
		number,
		number
	];
