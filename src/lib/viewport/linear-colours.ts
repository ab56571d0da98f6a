const LINEAR = Uint16Array.from({ length: 256 }, (_, i) => {
	const c = i / 255;
	return Math.round(65535 * (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
});

/** Colours of the screen as linear light, which is what attributes hold. */
export function linearColours(colours: Uint8Array): Uint16Array {
	const out = new Uint16Array(colours.length);
	for (let i = 0; i < colours.length; i++) out[i] = LINEAR[colours[i]];
	return out;
}
