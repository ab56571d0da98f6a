/** Passes over whole pictures: the mean of several, and the way from linear light to the screen. */
import * as THREE from 'three';

const VERTEX = /* glsl */ `
	varying vec2 vPlace;
	void main() {
		vPlace = uv;
		gl_Position = vec4(position.xy, 0.0, 1.0);
	}
`;
const FLAT = { depthTest: false, depthWrite: false, blending: THREE.NoBlending } as const;

/** The mean of `n - 1` pictures and one more: `share` is 1 / n. */
export const meanMaterial = (): THREE.ShaderMaterial =>
	new THREE.ShaderMaterial({
		...FLAT,
		uniforms: { before: { value: null }, next: { value: null }, share: { value: 1 } },
		vertexShader: VERTEX,
		fragmentShader: /* glsl */ `
			uniform sampler2D before;
			uniform sampler2D next;
			uniform float share;
			varying vec2 vPlace;
			void main() {
				vec4 one = texture2D(next, vPlace);
				gl_FragColor = share >= 1.0 ? one : mix(texture2D(before, vPlace), one, share);
			}
		`
	});

/**
 * Light to the screen by the neutral tone mapping of Khronos (PBR Neutral, 2024), which leaves colours below 0.76 as they are.
 * What lies `under` shows where nothing was drawn, and the page's background under that: colours are given times their opacity, unless `apart`.
 */
export const screenMaterial = (apart = false): THREE.ShaderMaterial =>
	new THREE.ShaderMaterial({
		...FLAT,
		uniforms: { picture: { value: null }, under: { value: null }, gathered: { value: 0 } },
		vertexShader: VERTEX,
		fragmentShader: /* glsl */ `
			uniform sampler2D picture;
			uniform sampler2D under;
			uniform float gathered;
			varying vec2 vPlace;
			vec3 neutral(vec3 colour) {
				float least = min(colour.r, min(colour.g, colour.b));
				colour -= least < 0.08 ? least - 6.25 * least * least : 0.04;
				float peak = max(colour.r, max(colour.g, colour.b));
				if (peak < 0.76) return colour;
				float lower = 1.0 - 0.24 * 0.24 / (peak - 0.52);
				colour *= lower / peak;
				return mix(vec3(lower), colour, 1.0 / (0.15 * (peak - lower) + 1.0));
			}
			vec3 forScreen(vec3 light) {
				light = clamp(light, 0.0, 1.0);
				return mix(1.055 * pow(light, vec3(1.0 / 2.4)) - 0.055, light * 12.92, vec3(lessThan(light, vec3(0.0031308))));
			}
			bool isShadow(vec4 one) { return one.a < 0.999 && one.r + one.g + one.b < 1e-4; }
			/** What grain is left in the shadow on the ground is smoothed away among its like. */
			vec4 evened(vec4 own) {
				ivec2 at = ivec2(gl_FragCoord.xy);
				ivec2 last = textureSize(picture, 0) - 1;
				vec2 sum = vec2(own.a, 1.0);
				for (int y = -2; y <= 2; y++)
					for (int x = -2; x <= 2; x++) {
						vec4 one = texelFetch(picture, clamp(at + ivec2(x, y), ivec2(0), last), 0);
						if (isShadow(one)) sum += vec2(one.a, 1.0);
					}
				return vec4(own.rgb, sum.x / sum.y);
			}
			void main() {
				vec4 given = texture2D(picture, vPlace);
				vec4 below = texture2D(under, vPlace);
				if (given.a <= 0.0 && below.a <= 0.0) {
					gl_FragColor = vec4(0.0);
					return;
				}
				if (gathered > 0.5 && isShadow(given)) given = evened(given);
				given.a = clamp(given.a, 0.0, 1.0);
				given += (1.0 - given.a) * below;
				float opacity = clamp(given.a, 0.0, 1.0);
				vec3 colour = opacity > 0.0 ? forScreen(neutral(max(given.rgb, 0.0) / opacity)) : vec3(0.0);
				gl_FragColor = vec4(colour * ${apart ? '1.0' : 'opacity'}, opacity);
			}
		`
	});
