/** The icon of what a port or wire carries. */
import Blend from '@lucide/svelte/icons/blend';
import Box from '@lucide/svelte/icons/box';
import CircleDot from '@lucide/svelte/icons/circle-dot';
import Hash from '@lucide/svelte/icons/hash';
import List from '@lucide/svelte/icons/list';
import Move3d from '@lucide/svelte/icons/move-3d';
import Palette from '@lucide/svelte/icons/palette';
import Spline from '@lucide/svelte/icons/spline';
import ToggleLeft from '@lucide/svelte/icons/toggle-left';
import type { WireKind } from '$core/nodes/index';

const KIND_ICONS = {
	geometry: Box,
	number: Hash,
	whole: Hash,
	yesno: ToggleLeft,
	vector: Move3d,
	colour: Palette,
	value: Blend,
	list: List,
	ramp: Spline
} as const;
export const iconOf = (kind: WireKind | string) => KIND_ICONS[kind as WireKind] ?? CircleDot;
