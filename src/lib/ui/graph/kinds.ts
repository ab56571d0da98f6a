/** The icon of what a port or wire carries. */
import { Blend, Box, CircleDot, Hash, List, Move3d, Palette, ToggleLeft } from '@lucide/svelte';
import type { WireKind } from '$core/index';

export const KIND_ICONS = { geometry: Box, number: Hash, whole: Hash, yesno: ToggleLeft, vector: Move3d, colour: Palette, value: Blend, list: List } as const;
export const iconOf = (kind: WireKind | string) => KIND_ICONS[kind as WireKind] ?? CircleDot;
