/** How surfaces look: glTF's metallic-roughness material under one light with a shadow, the sky, and the ground's reflection. */
import * as THREE from 'three';

/** Numbers that all materials share, so that a change of the light changes no material. */
export class LightUniforms {
	/** The way to the light that casts the shadow, and its irradiance. */
	readonly way = { value: new THREE.Vector3(0, 1, 0) };
	readonly direct = { value: new THREE.Vector3() };
	/** 1 where that light makes highlights, 0 where it stands for a piece of the sky. */
	readonly glint = { value: 1 };
	/** Irradiance from the sky without shadow, and from the ground. */
	readonly sky = { value: new THREE.Vector3() };
	readonly ground = { value: new THREE.Vector3() };
	/** What a level plane without shadow gets in the finished picture. */
	readonly open = { value: 1 };
	readonly exposure = { value: 1 };
	readonly shadowMap = { value: null as THREE.DepthTexture | null };
	readonly shadowMatrix = { value: new THREE.Matrix4() };
	readonly shadowOn = { value: 0 };
	/** The side of a texel of the shadow map in metres and as a share of the map, and how many metres deep the map is. */
	readonly texel = { value: new THREE.Vector3(0.01, 1 / 1024, 1) };
	/** The slope of the sides of the cone of light for which one of many pictures stands. */
	readonly cone = { value: 0 };
	/** Which of the gathered pictures it is, from 1; 0 for a picture that stands alone. */
	readonly grain = { value: 0 };

	/** All of them under the names that the shaders know. */
	get all(): Record<string, THREE.IUniform> {
		return { ...this } as unknown as Record<string, THREE.IUniform>;
	}
}

/** Where a vertex is, copies at their places. */
const PLACED = /* glsl */ `
	mat4 place = modelMatrix;
	#ifdef USE_INSTANCING
		place = modelMatrix * instanceMatrix;
	#endif
	vec4 world = place * vec4(position, 1.0);
`;

const VERTEX = /* glsl */ `
	varying vec3 vWorld;
	varying vec3 vNormal;
	#if defined(HEAT) || defined(PAINT)
		varying vec3 vHeat;
	#endif
	void main() {
		${PLACED}
		vWorld = world.xyz;
		// Across scales the normal goes the other way than lengths do.
		mat3 turn = mat3(place);
		vec3 sizes = vec3(dot(turn[0], turn[0]), dot(turn[1], turn[1]), dot(turn[2], turn[2]));
		vNormal = turn * (normal / max(sizes, vec3(1e-30)));
		#if defined(HEAT) || defined(PAINT)
			vHeat = vec3(1.0);
			#ifdef USE_COLOR
				vHeat = color.rgb;
			#endif
			#ifdef USE_INSTANCING_COLOR
				vHeat *= instanceColor.rgb;
			#endif
		#endif
		gl_Position = projectionMatrix * viewMatrix * world;
	}
`;

/**
 * What reaches a place of the light that casts the shadow: 1 all of it, 0 none. A single picture mixes the four texels
 * around the place. One of many stands for a cone of light: it looks for what may block the cone, and then tests as wide
 * as the cone is there (after Fernando, Percentage-Closer Soft Shadows, 2005), turned for each pixel and each picture by
 * interleaved gradient noise (Jimenez, 2014) and golden steps: what would be edges in the mean of a few directions becomes even.
 */
export const SHADOW = /* glsl */ `
	uniform highp sampler2D shadowMap;
	uniform mat4 shadowMatrix;
	uniform float shadowOn;
	uniform vec3 texel;
	uniform float cone;
	uniform float grain;
	float farTo(vec2 at) { return texture2D(shadowMap, at).r; }

	float reached(vec3 place, vec3 normal, vec3 way) {
		if (shadowOn < 0.5) return 1.0;
		vec3 at = (shadowMatrix * vec4(place + normal * texel.x * 1.4, 1.0)).xyz;
		if (any(lessThan(at, vec3(0.0))) || any(greaterThan(at, vec3(1.0)))) return 1.0;
		if (grain <= 0.0) {
			vec2 cell = at.xy / texel.y - 0.5;
			vec2 part = fract(cell);
			vec2 low = (floor(cell) + 0.5) * texel.y;
			vec2 high = low + texel.y;
			vec4 free = step(vec4(at.z), vec4(farTo(low), farTo(vec2(high.x, low.y)), farTo(vec2(low.x, high.y)), farTo(high)));
			return mix(mix(free.x, free.y, part.x), mix(free.z, free.w, part.x), part.y);
		}
		// Each pixel begins elsewhere and goes on from picture to picture by golden steps, which are even however many there are.
		float start = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
		float some = fract(start + 0.6180340 * grain);
		float more = fract(start * 7.31 + 0.7548777 * grain);
		float turn = 6.2831853 * more;
		vec2 one = vec2(cos(turn), sin(turn));
		// A tilted surface rises by so much for each metre aside.
		float facing = max(dot(normal, way), 0.12);
		float rise = min(4.0, sqrt(1.0 - facing * facing) / facing);
		float toMap = texel.y / texel.x;
		float wide = min(cone * at.z * texel.z, 160.0 * texel.x);
		float gaps = 0.0;
		float blockers = 0.0;
		for (int k = 0; k < 5; k++) {
			float aside = wide * sqrt((float(k) * 0.999 + some * 0.8) / 5.0) * (k == 0 ? 0.0 : 1.0);
			float gap = (at.z - farTo(at.xy + one * aside * toMap)) * texel.z;
			// Only what lies within the cone as far away as it is.
			if (gap > texel.x + aside * rise && aside <= cone * gap * 1.3) {
				gaps += gap;
				blockers += 1.0;
			}
			one = mat2(-0.7373688, 0.6754903, -0.6754903, -0.7373688) * one;
		}
		if (blockers < 0.5) return 1.0;
		float reach = cone * gaps / blockers;
		float free = 0.0;
		for (int k = 0; k < 4; k++) {
			float aside = reach * sqrt((float(k) + some) / 4.0);
			float gap = (at.z - farTo(at.xy + one * aside * toMap)) * texel.z;
			free += gap > aside * rise ? 0.0 : 0.25;
			one = mat2(-0.7373688, 0.6754903, -0.6754903, -0.7373688) * one;
		}
		return free;
	}
`;

/**
 * Diffuse by Lambert, highlights by GGX with Smith's visibility and Schlick's Fresnel, as glTF 2.0 describes them; what the
 * sky and the ground mirror by an analytic fit of the same lobe (Lazarov, Getting More Physical, 2013; Karis, Physically
 * Based Shading on Mobile, 2014).
 */
const FRAGMENT = /* glsl */ `
	#define PI 3.141592653589793
	uniform vec3 colour;
	uniform float opacity;
	uniform float roughness;
	uniform float metallic;
	uniform vec3 tint;
	uniform vec3 way;
	uniform vec3 direct;
	uniform float glint;
	uniform vec3 sky;
	uniform vec3 ground;
	uniform float exposure;
	varying vec3 vWorld;
	varying vec3 vNormal;
	#if defined(HEAT) || defined(PAINT)
		varying vec3 vHeat;
	#endif
	${SHADOW}

	/** A soft day: bright near the horizon, a wide window overhead, the ground below; blurred by roughness. */
	vec3 mirrored(vec3 towards, float rough) {
		float soft = 0.06 + 0.9 * rough;
		float above = smoothstep(-soft, soft, towards.y);
		float zenith = clamp(towards.y, 0.0, 1.0);
		vec3 high = mix(vec3(0.98, 0.97, 0.94), vec3(0.36, 0.43, 0.52), smoothstep(0.0, 0.75, zenith));
		float window = smoothstep(0.82 - soft * 0.7, 0.82 + soft * 0.7, dot(towards, normalize(vec3(-0.45, 0.75, 0.5))));
		high += vec3(0.75, 0.72, 0.66) * window * (1.0 - 0.75 * rough);
		return mix(vec3(0.16, 0.145, 0.125), high * 0.72, above);
	}

	void main() {
		vec3 toEye = isOrthographic
			? normalize(vec3(viewMatrix[0][2], viewMatrix[1][2], viewMatrix[2][2]))
			: normalize(cameraPosition - vWorld);
		vec3 normal = normalize(vNormal);
		if (!gl_FrontFacing) normal = -normal;
		float facing = dot(normal, way);
		float dotLight = max(facing, 0.0);
		float up = 0.5 + 0.5 * normal.y;
		vec3 around = sky * up + ground * (1.0 - up);
		#ifdef HEAT
			// Little light, so that the scale's colours stay what they are.
			gl_FragColor = vec4(vHeat * (0.72 + 0.1 * up + 0.18 * dotLight), 1.0);
			return;
		#endif
		float light = dotLight > 0.0 ? reached(vWorld, normal, way) * dotLight : 0.0;
		float dotEye = max(dot(normal, toEye), 1e-4);
		vec3 own = colour;
		#ifdef PAINT
			own *= vHeat;
		#endif
		vec3 base = mix(vec3(0.04), own, metallic);
		vec3 diffuse = own * (1.0 - metallic) * 0.96;
		float alpha = max(roughness * roughness, 0.003);
		vec3 highlight = vec3(0.0);
		if (light > 0.0 && glint > 0.0) {
			vec3 middle = normalize(way + toEye);
			float dotHalf = max(dot(normal, middle), 0.0);
			float a2 = alpha * alpha;
			float spread = dotHalf * dotHalf * (a2 - 1.0) + 1.0;
			float many = a2 / (PI * spread * spread);
			float seen = 0.5 / (dotLight * sqrt(dotEye * dotEye * (1.0 - a2) + a2) + dotEye * sqrt(dotLight * dotLight * (1.0 - a2) + a2));
			float edge = 1.0 - max(dot(toEye, middle), 0.0);
			vec3 fresnel = base + (1.0 - base) * (edge * edge * edge * edge * edge);
			highlight = fresnel * many * seen * glint;
		}
		vec4 fit = roughness * vec4(-1.0, -0.0275, -0.572, 0.022) + vec4(1.0, 0.0425, 1.04, -0.04);
		float bend = min(fit.x * fit.x, exp2(-9.28 * dotEye)) * fit.x + fit.y;
		vec2 lobe = vec2(-1.04, 1.04) * bend + fit.zw;
		vec3 image = mirrored(reflect(-toEye, normal), roughness) * (base * lobe.x + lobe.y);
		vec3 out3 = (diffuse / PI) * (direct * light + around) + highlight * direct * light + image;
		gl_FragColor = vec4(out3 * exposure + tint, opacity);
	}
`;

export interface SurfaceLook {
	colour: readonly [number, number, number];
	opacity: number;
	roughness: number;
	metallic: number;
	/** Added to its light, for what is selected. */
	tint?: readonly [number, number, number];
	side: THREE.Side;
	/** Whose colours it is multiplied by: those of vertices, or those of copies. */
	paint?: 'vertices' | 'copies' | null;
	/** Whether it hides what lies behind. */
	solid?: boolean;
}

/** A surface in the light. */
export function surfaceMaterial(light: LightUniforms, look: SurfaceLook): THREE.ShaderMaterial {
	const seeThrough = look.opacity < 1;
	return new THREE.ShaderMaterial({
		...(look.paint && { defines: { PAINT: '' }, vertexColors: look.paint === 'vertices' }),
		vertexShader: VERTEX,
		fragmentShader: FRAGMENT,
		uniforms: {
			...light.all,
			colour: { value: new THREE.Vector3(...look.colour) },
			opacity: { value: look.opacity },
			roughness: { value: look.roughness },
			metallic: { value: look.metallic },
			tint: { value: new THREE.Vector3(...(look.tint ?? [0, 0, 0])) }
		},
		transparent: seeThrough,
		depthWrite: !seeThrough,
		side: look.side,
		// Edges lie on the faces: these stand back a little.
		polygonOffset: true,
		polygonOffsetFactor: 1,
		polygonOffsetUnits: 1
	});
}

/** A surface in the colours of a heat map. */
export function heatMaterial(
	light: LightUniforms,
	vertices: boolean,
	side: THREE.Side
): THREE.ShaderMaterial {
	const material = surfaceMaterial(light, { colour: [1, 1, 1], opacity: 1, roughness: 1, metallic: 0, side });
	material.vertexColors = vertices;
	material.defines = { HEAT: '' };
	return material;
}

/** For the shadow map: how far from the light things are, and nothing else. */
export const depthMaterial = (): THREE.ShaderMaterial =>
	new THREE.ShaderMaterial({
		vertexShader: `void main() { ${PLACED} gl_Position = projectionMatrix * viewMatrix * world; }`,
		fragmentShader: 'void main() { gl_FragColor = vec4(0.0); }',
		side: THREE.DoubleSide,
		colorWrite: false,
		polygonOffset: true,
		polygonOffsetFactor: 1.5,
		polygonOffsetUnits: 2
	});
