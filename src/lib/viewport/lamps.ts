/** Lights the scene: for a picture that stands alone, and for each of those whose mean is lit by the whole sun and sky. */
import type { Light, Way } from './light';
import { GROUND, SKY, SUN, USUAL_LIGHT, ofSky, ofSun, overSky, overSun, sunWay, turnOf } from './light';
import type { LightUniforms } from './surface';

/** The slopes of cones that would hold the whole sun and the whole sky, were they not cut into pieces, with some to spare. */
const SUN_PIECE = 0.14,
	SKY_PIECE = 1.6;

export class Lamps {
	wanted: Light = USUAL_LIGHT;
	readonly #uniforms: LightUniforms;

	constructor(uniforms: LightUniforms) {
		this.#uniforms = uniforms;
	}

	/** The sun and a sky that is everywhere the same. */
	plainly(): Way {
		const { direct, sky, ground, glint, open, shadowOn, grain, way } = this.#uniforms;
		const sun = sunWay(this.wanted);
		way.value.set(...(sun as [number, number, number]));
		direct.value.set(...(SUN as [number, number, number]));
		sky.value.set(...(SKY as [number, number, number]));
		ground.value.set(...(GROUND as [number, number, number]));
		glint.value = 1;
		grain.value = 0;
		open.value = bright(SUN) * Math.max(0.05, sun[1]) + bright(SKY);
		shadowOn.value = this.wanted.shadow ? 1 : 0;
		return sun;
	}

	/** A picture is lit by the sun alone or by one piece of the sky; their mean is lit by both. */
	sample(i: number, samples: number): Way {
		this.plainly();
		const { direct, sky, glint, shadowOn, way, cone, grain } = this.#uniforms;
		const { sun, nth } = turnOf(i);
		const count = sun ? ofSun(samples) : ofSky(samples);
		const towards = sun ? overSun(this.wanted, nth, count) : overSky(nth, count);
		way.value.set(...(towards as [number, number, number]));
		// A dome’s even light, as if all of it came from one place: twice, since half of it lies behind any face.
		const [r, g, b] = sun ? SUN : SKY;
		const times = ((sun ? 1 : 2) * samples) / count;
		direct.value.set(times * r, times * g, times * b);
		sky.value.set(0, 0, 0);
		glint.value = sun ? 1 : 0;
		// The wider, the fewer pieces the sun and the sky are cut into.
		cone.value = (sun ? SUN_PIECE : SKY_PIECE) / Math.sqrt(count);
		grain.value = nth + 1;
		if (!sun) shadowOn.value = 1;
		return towards;
	}
}

/** How bright a light is to the eye. */
const bright = ([r, g, b]: Way): number => 0.3 * r + 0.6 * g + 0.1 * b;
