<script lang="ts">
	import { DropdownMenu, Popover } from 'bits-ui';
	import Axis3d from '@lucide/svelte/icons/axis-3d';
	import Camera from '@lucide/svelte/icons/camera';
	import Check from '@lucide/svelte/icons/check';
	import Eye from '@lucide/svelte/icons/eye';
	import Ghost from '@lucide/svelte/icons/ghost';
	import Layers from '@lucide/svelte/icons/layers';
	import LoaderCircle from '@lucide/svelte/icons/loader-circle';
	import Maximize from '@lucide/svelte/icons/maximize';
	import Move3d from '@lucide/svelte/icons/move-3d';
	import PaintBucket from '@lucide/svelte/icons/paint-bucket';
	import Rotate3d from '@lucide/svelte/icons/rotate-3d';
	import Ruler from '@lucide/svelte/icons/ruler';
	import Scale3d from '@lucide/svelte/icons/scale-3d';
	import Focus from '@lucide/svelte/icons/focus';
	import Square from '@lucide/svelte/icons/square';
	import { Vector3 } from 'three';
	import { untrack } from 'svelte';
	import type { Setting } from '$core/index';
	import { nodeKinds, settingOf } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { savePicture } from '$lib/store/database';
	import { theme } from '$lib/ui/theme.svelte';
	import HeatLegend from './HeatLegend.svelte';
	import PathOverlay from './PathOverlay.svelte';
	import PictureDialog from './PictureDialog.svelte';
	import type { Direction, HandleMode, HandleValues, Shading } from './scene';
	import { ViewScene } from './scene';

	let { editor }: { editor: Editor } = $props();

	const BACKGROUNDS: Record<string, [label: string, light: string, dark: string]> = {
		paper: ['As the theme', '#f5f1e8', '#182326'],
		white: ['White', '#ffffff', '#ffffff'],
		mist: ['Mist', '#c9d3d1', '#c9d3d1'],
		slate: ['Slate', '#3a4648', '#3a4648'],
		night: ['Night', '#0d1314', '#0d1314']
	};
	let canvas = $state<HTMLCanvasElement>();
	let pane = $state<HTMLElement>();
	let scene = $state.raw<ViewScene>();
	let shading = $state<Shading>('shaded');
	let direction = $state<Direction>('perspective');
	let nearHidden = $state(false);
	let grid = $state(true);
	let cell = $state(1);
	let handleMode = $state<HandleMode>('translate');
	let measuring = $state(false);
	let ends = $state.raw<Vector3[]>([]);
	let label = $state.raw<{ x: number; y: number; text: string } | null>(null);
	let picturing = $state(false);
	/** A node without a result, in whose place the last good picture stands. */
	let keptFor = $state<string | null>(null);
	let fittedOnce = false;
	/** Counts up as the picture moves, so that what lies over it is placed anew. */
	let moves = $state(0);
	/** Whether the card's picture is older than what is shown. */
	let outdated = false;
	let pictureTimer: ReturnType<typeof setTimeout> | undefined;

	const background = $derived(BACKGROUNDS[editor.document.view.background] ?? BACKGROUNDS.paper);
	const backgroundColour = $derived(background[theme.current === 'dusk' ? 2 : 1]);
	const darkGround = $derived(
		['slate', 'night'].includes(editor.document.view.background) ||
			(editor.document.view.background === 'paper' && theme.current === 'dusk')
	);
	const cellText = $derived(cell >= 1 ? `${cell} m` : `${Math.round(cell * 100)} cm`);

	$effect(() => {
		const made = new ViewScene(canvas!);
		scene = made;
		made.onGrid = (next) => (cell = next);
		made.onCamera = () => {
			outdated = true;
			rememberPicture();
		};
		made.onHandles = writeHandles;
		made.onMove = () => {
			moves++;
			placeLabel();
		};
		const { camera } = untrack(() => editor.document.view);
		if (camera) made.cameraState = camera;
		const observer = new ResizeObserver(() =>
			made.resize(canvas!.parentElement!.clientWidth, canvas!.parentElement!.clientHeight)
		);
		observer.observe(canvas!.parentElement!);
		// For tests and screenshots, which look at the picture from outside.
		(window as unknown as { embrellView?: ViewScene }).embrellView = made;
		return () => {
			observer.disconnect();
			clearTimeout(pictureTimer);
			takePicture().finally(() => made.dispose());
		};
	});
	$effect(() => scene?.setColours(backgroundColour, darkGround));
	$effect(() => {
		const { packet } = editor;
		if (!packet || !scene) return;
		untrack(() => {
			const failed = new Set(
				editor.shown.filter((id) => ['error', 'waiting'].includes(editor.reports.get(id)?.state ?? ''))
			);
			keptFor = scene!.take(packet, failed) ? ([...failed][0] ?? null) : null;
			if (!fittedOnce && editor.bounds) {
				fittedOnce = true;
				// The camera of the file stays where it is, unless it cuts something off in a pane of this shape.
				if (!editor.document.view.camera || !scene!.isInSight(editor.bounds)) scene!.fit(editor.bounds);
			}
			outdated = true;
			rememberPicture();
		});
	});
	$effect(() => scene?.setNearWallsHidden(nearHidden));
	$effect(() => {
		if (scene) scene.gridVisible = grid;
	});
	$effect(() => {
		scene?.setShading(shading);
		const wire = shading !== 'shaded';
		untrack(() => {
			if (editor.wireframe === wire) return;
			editor.wireframe = wire;
			editor.evaluate();
		});
	});

	// Handles of the selected node, where its place is set by plain numbers.
	const handled = $derived.by(() => {
		const node = editor.active;
		const declared = node && nodeKinds.get(node.kind)!.handles;
		if (!node || !declared) return null;
		const { inputs, handlesWhen } = nodeKinds.get(node.kind)!;
		if (handlesWhen?.(node.settings) === false) return null;
		// Settings that are hidden now have no handles either.
		const handles: typeof declared = Object.fromEntries(
			Object.entries(declared).filter(([, name]) => inputs[name].when?.(node.settings) !== false)
		);
		if (!Object.keys(handles).length) return null;
		const read = (name: string | undefined, otherwise: number): [number, number, number] | null => {
			if (!name) return [otherwise, otherwise, otherwise];
			if (editor.graph.wires.some((wire) => wire.to[0] === node.id && wire.to[1] === name)) return null;
			const setting: unknown = settingOf(node, name, inputs[name]);
			if (typeof setting === 'number') return [setting, setting, setting];
			return Array.isArray(setting) && setting.every((part) => typeof part === 'number')
				? (setting as [number, number, number])
				: null;
		};
		const [move, rotate, scale] = [read(handles.move, 0), read(handles.rotate, 0), read(handles.scale, 1)];
		return move && rotate && scale
			? { node, handles, values: { move, rotate, scale }, pivot: read(handles.pivot, 0) ?? [0, 0, 0] }
			: null;
	});
	$effect(() => scene?.setHandles(handled?.values ?? null, handled?.pivot ?? [0, 0, 0], handleMode));

	function writeHandles(values: HandleValues, done: boolean) {
		if (!handled) return;
		const { node, handles, pivot } = handled;
		const name = { translate: handles.move, rotate: handles.rotate, scale: handles.scale }[handleMode];
		if (name) {
			const next =
				handleMode === 'translate'
					? values.move.map((x, k) => Number((x - pivot[k]).toFixed(3)))
					: handleMode === 'rotate'
						? values.rotate
						: values.scale;
			editor.set(node.id, name, next as Setting, 'handle');
		}
		if (done) editor.endGesture();
	}

	// The source's axes, as arrows, while a node that places copies is selected.
	$effect(() => {
		const node = editor.active;
		const axis = (id: unknown): number[] => {
			const sign = String(id).startsWith('-') ? -1 : 1;
			return ['x', 'y', 'z'].map((letter) => (String(id).endsWith(letter) ? sign : 0));
		};
		if (node?.kind !== 'place-copies') return void scene?.showAxes(null);
		const wire = editor.graph.wires.find((one) => one.to[0] === node.id && one.to[1] === 'source');
		const box = wire && editor.reports.get(wire.from[0])?.bounds;
		const size = box ? Math.max(0.2, ...[0, 1, 2].map((k) => box.high[k] - box.low[k])) * 1.15 : 1;
		scene?.showAxes({ up: axis(node.settings.up), forward: axis(node.settings.forward), size });
	});
	$effect(() => {
		const node = editor.active;
		if (node?.kind !== 'weight-in-zone') return void scene?.showZone(null);
		const plain = (name: string): number[] => {
			const setting: unknown = settingOf(node, name, nodeKinds.get(node.kind)!.inputs[name]);
			if (typeof setting === 'number') return [setting, setting, setting];
			return Array.isArray(setting)
				? setting.map((part) => (typeof part === 'number' ? part : 0))
				: [0, 0, 0];
		};
		scene?.showZone({
			shape: String(node.settings.shape ?? 'sphere'),
			centre: plain('centre'),
			rotate: plain('rotate'),
			size: plain('size'),
			inner: plain('inner')[0],
			outer: plain('outer')[0]
		});
	});
	$effect(() => {
		const node = editor.active;
		scene?.showStaff(node?.kind === 'import-mesh' ? (editor.reports.get(node.id)?.bounds ?? null) : null);
	});

	/** A picture for the Library's card: when nothing has happened for a while, and on leaving. */
	function rememberPicture() {
		clearTimeout(pictureTimer);
		if (!outdated) return;
		pictureTimer = setTimeout(takePicture, 5000);
	}
	async function takePicture() {
		if (!scene || !outdated || !editor.saving.writes || scene.handles.dragging || !editor.graph.nodes.length)
			return;
		outdated = false;
		const blob = await scene.picture(400, 260, false, 'image/webp', editor.bounds).catch(() => null);
		if (blob) await savePicture(editor.id, blob).catch(() => {});
	}

	const shownBounds = () => {
		const active = editor.active && editor.reports.get(editor.active.id)?.bounds;
		return active ?? editor.bounds;
	};
	export const fitAll = () => scene?.fit(editor.bounds);
	export const fitSelection = () => scene?.fit(shownBounds());
	export function look(next: Direction) {
		direction = next;
		scene?.look(next);
	}
	export function setHandleMode(mode: HandleMode) {
		handleMode = mode;
	}
	/** Arrows turn, with Shift they move; plus and minus come nearer and go away. */
	export function key(event: KeyboardEvent): boolean {
		const arrows: Record<string, [number, number]> = {
			ArrowLeft: [-1, 0],
			ArrowRight: [1, 0],
			ArrowUp: [0, 1],
			ArrowDown: [0, -1]
		};
		if (arrows[event.key]) scene?.nudge(event.shiftKey ? 'pan' : 'orbit', ...arrows[event.key]);
		else if (event.key === '+' || event.key === '=') scene?.nudge('zoom', 0, 1);
		else if (event.key === '-') scene?.nudge('zoom', 0, -1);
		else if (event.key === 'Escape' && measuring) stopMeasuring();
		else return false;
		return true;
	}

	let pressed = { x: 0, y: 0 };
	function click(event: PointerEvent) {
		if (!scene || Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > 4 || event.button !== 0)
			return;
		if (!measuring) return;
		const hit = scene.pick(event.clientX, event.clientY);
		if (!hit) return;
		ends = ends.length >= 2 ? [hit.point] : [...ends, hit.point];
		scene.showMeasure(ends);
		placeLabel();
	}
	function placeLabel() {
		if (!scene || ends.length < 2) label = null;
		else {
			const { x, y } = scene.project(ends[0].clone().add(ends[1]).multiplyScalar(0.5));
			const d = ends[0].distanceTo(ends[1]);
			label = { x, y, text: d < 1 ? `${(d * 100).toFixed(1)} cm` : `${d.toFixed(3)} m` };
		}
	}
	function stopMeasuring() {
		measuring = false;
		ends = [];
		label = null;
		scene?.showMeasure([]);
	}
	const counts = $derived.by(() => {
		const total = { copies: 0, faces: 0, curves: 0, points: 0 };
		for (const id of editor.shown) {
			const found = editor.reports.get(id)?.counts;
			if (found) for (const key of Object.keys(total) as (keyof typeof total)[]) total[key] += found[key];
		}
		return Object.entries(total)
			.filter(([, n]) => n)
			.map(
				([what, n]) =>
					`${n.toLocaleString('en')} ${n === 1 ? (what === 'copies' ? 'copy' : what.slice(0, -1)) : what}`
			)
			.join(' · ');
	});
	const size = $derived(
		editor.bounds
			? [0, 1, 2].map((k) => (editor.bounds!.high[k] - editor.bounds!.low[k]).toFixed(2)).join(' × ') + ' m'
			: ''
	);
	const handleModes = [
		['translate', 'Move', 'M', Move3d],
		['rotate', 'Rotate', 'R', Rotate3d],
		['scale', 'Scale', 'S', Scale3d]
	] as const;
</script>

<svelte:window onpointermove={rememberPicture} onkeydown={rememberPicture} />
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<section
	bind:this={pane}
	class="@container relative h-full min-w-0 overflow-hidden outline-none"
	aria-label="View"
	tabindex="0"
>
	<div class="absolute inset-0">
		<canvas
			bind:this={canvas}
			class="block h-full w-full {measuring ? 'cursor-crosshair' : ''}"
			aria-label="Picture of the result"
			onpointerdown={(event) => (pressed = { x: event.clientX, y: event.clientY })}
			onpointerup={click}
		></canvas>
	</div>
	<div class="absolute top-2 left-2 flex flex-wrap gap-1">
		<button class="button" onclick={fitAll} aria-label="Fit all" title="Fit all (Shift+F)"
			><Maximize size={15} /> <span class="wide">Fit</span></button
		>
		<button class="button" onclick={fitSelection} aria-label="Fit selection" title="Fit what is selected (F)"
			><Focus size={15} /></button
		>
		<DropdownMenu.Root>
			<DropdownMenu.Trigger class="button capitalize" aria-label="Direction of view"
				><Axis3d size={15} /> <span class="wide">{direction}</span></DropdownMenu.Trigger
			>
			<DropdownMenu.Portal>
				<DropdownMenu.Content class="menu" align="start">
					{#each [['perspective', 'Perspective', 'Alt+P'], ['top', 'Top', 'Alt+T'], ['front', 'Front', 'Alt+N'], ['east', 'Side, from the east', 'Alt+E']] as const as [id, name, keys] (id)}
						<DropdownMenu.Item class="menu-item" onSelect={() => look(id)}
							><span class="flex-1">{name}</span><kbd class="font-mono text-xs text-quiet">{keys}</kbd
							></DropdownMenu.Item
						>
					{/each}
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
		<DropdownMenu.Root>
			<DropdownMenu.Trigger class="button" aria-label="How it is drawn"
				><PaintBucket size={15} />
				<span class="wide"
					>{shading === 'shaded' ? 'Shaded' : shading === 'both' ? 'Shaded + edges' : 'Wireframe'}</span
				></DropdownMenu.Trigger
			>
			<DropdownMenu.Portal>
				<DropdownMenu.Content class="menu" align="start">
					{#each [['shaded', 'Shaded'], ['wireframe', 'Wireframe'], ['both', 'Shaded with edges']] as const as [id, name] (id)}
						<DropdownMenu.Item class="menu-item" onSelect={() => (shading = id)}
							><span class="w-4"
								>{#if shading === id}<Check size={14} />{/if}</span
							>{name}</DropdownMenu.Item
						>
					{/each}
					<DropdownMenu.Separator class="my-1 border-t border-line" />
					<DropdownMenu.CheckboxItem class="menu-item" bind:checked={nearHidden}
						>{#snippet children({ checked })}<span class="w-4"
								>{#if checked}<Check size={14} />{/if}</span
							>Hide near walls{/snippet}</DropdownMenu.CheckboxItem
					>
					<DropdownMenu.CheckboxItem class="menu-item" bind:checked={grid}
						>{#snippet children({ checked })}<span class="w-4"
								>{#if checked}<Check size={14} />{/if}</span
							>Grid{/snippet}</DropdownMenu.CheckboxItem
					>
					<DropdownMenu.Separator class="my-1 border-t border-line" />
					{#each Object.entries(BACKGROUNDS) as [id, [name, light]] (id)}
						<DropdownMenu.Item class="menu-item" onSelect={() => editor.setView({ background: id })}
							><span class="h-4 w-4 rounded-sm border border-line" style="background: {light}"></span><span
								class:font-semibold={editor.document.view.background === id}>{name}</span
							></DropdownMenu.Item
						>
					{/each}
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
		<button
			class="button"
			aria-pressed={measuring}
			class:text-coral={measuring}
			onclick={() => (measuring ? stopMeasuring() : (measuring = true))}
			aria-label="Measure between two points"
			title="Measure between two points"><Ruler size={15} /> <span class="wide">Measure</span></button
		>
		<button
			class="button"
			onclick={() => (picturing = true)}
			aria-label="Save a picture"
			title="Save a picture"><Camera size={15} /></button
		>
		{#if handled}
			<span
				class="flex overflow-hidden rounded border border-line bg-sheet"
				role="group"
				aria-label="Handles"
			>
				{#each handleModes as [mode, name, shortcut, Icon] (mode)}
					<button
						class="icon-button rounded-none"
						aria-pressed={handleMode === mode}
						aria-label="{name} handles"
						title="{name} ({shortcut})"
						onclick={() => (handleMode = mode)}><Icon size={15} /></button
					>
				{/each}
			</span>
		{/if}
	</div>
	<div class="absolute top-2 right-2">
		<Popover.Root>
			<Popover.Trigger class="button" aria-label="What is shown"
				><Layers size={15} class="shrink-0" />
				<span class="max-w-[22cqw] truncate"
					>{editor.shown.map((id) => editor.node(id)?.short).join(', ') || 'nothing'}</span
				></Popover.Trigger
			>
			<Popover.Portal>
				<Popover.Content class="menu max-h-96 w-60 overflow-y-auto" align="end">
					<p class="px-2 pb-1 text-xs text-quiet">Shown, and as ghosts behind</p>
					{#each editor.graph.nodes.filter((node) => editor.reports.get(node.id)?.counts) as node (node.id)}
						<div class="flex items-center gap-1 px-2">
							<span class="min-w-0 flex-1 truncate text-[13px]">{node.short}</span>
							<button
								class="icon-button"
								aria-pressed={editor.shown.includes(node.id)}
								aria-label="Show {node.short}"
								onclick={() => editor.toggleShown(node.id, true)}><Eye size={14} /></button
							>
							<button
								class="icon-button"
								aria-pressed={editor.ghosts.includes(node.id)}
								aria-label="Show {node.short} as a ghost"
								onclick={() => editor.toggleGhost(node.id)}><Ghost size={14} /></button
							>
						</div>
					{:else}<p class="p-2 text-xs text-quiet">Nothing has come of the graph yet.</p>{/each}
				</Popover.Content>
			</Popover.Portal>
		</Popover.Root>
	</div>
	{#if scene && editor.active && 'path' in nodeKinds.get(editor.active.kind)!.inputs}
		<PathOverlay {editor} {scene} node={editor.active} {moves} />
	{/if}
	{#if editor.heat && editor.packet?.heat}
		<HeatLegend
			facts={editor.packet.heat}
			name={editor.node(editor.heat[0])?.short ?? ''}
			onhide={() => editor.toggleHeat(...(editor.heat as [string, string]))}
		/>
	{/if}
	{#if measuring && ends.length < 2}<p
			class="menu pointer-events-none absolute top-12 left-2 px-2 py-1 text-xs"
		>
			Click {ends.length ? 'the second' : 'the first'} place on a surface. Escape ends.
		</p>{/if}
	{#if label}<span
			class="menu pointer-events-none absolute min-w-0 -translate-x-1/2 px-1.5 py-0.5 font-mono text-xs"
			style="left: {label.x}px; top: {label.y}px"
			data-testid="distance">{label.text}</span
		>{/if}
	{#if editor.progress}
		<div
			class="menu absolute bottom-9 left-1/2 flex -translate-x-1/2 items-center gap-2 px-3 py-1.5"
			role="status"
		>
			<LoaderCircle size={15} class="animate-spin text-ochre" />
			<span
				>{editor.progress.node ? (editor.node(editor.progress.node)?.short ?? '') : 'Working'}{editor.progress
					.share > 0
					? ` ${Math.round(editor.progress.share * 100)} %`
					: ' …'}</span
			>
			<button class="button" onclick={() => editor.stop()}><Square size={13} /> Stop</button>
		</div>
	{:else if editor.trouble}
		<p class="menu absolute bottom-9 left-1/2 -translate-x-1/2 px-3 py-1.5 text-sm" role="status">
			{editor.trouble}
		</p>
	{:else if keptFor && editor.node(keptFor)}
		<p
			class="menu absolute bottom-9 left-1/2 w-max max-w-[90%] -translate-x-1/2 px-3 py-1.5 text-sm"
			role="status"
		>
			The last good picture. <button class="font-semibold underline" onclick={() => editor.select([keptFor!])}
				>{editor.node(keptFor)?.short}</button
			>: {editor.reports.get(keptFor)?.error?.message}
		</p>
	{/if}
	<footer
		class="pointer-events-none absolute bottom-1.5 left-2 flex max-w-[calc(100%-1rem)] flex-wrap gap-x-3 rounded bg-sheet/85 px-2 py-0.5 font-mono text-[11px] whitespace-nowrap text-ink"
	>
		<span data-testid="counts" class:hidden={!counts}>{counts}</span><span
			class="shrink-0"
			class:hidden={!size}
			data-testid="size">{size}</span
		>{#if grid}<span class="shrink-0 text-quiet">grid {cellText}</span>{/if}
	</footer>
	{#if picturing && scene}<PictureDialog
			{scene}
			name={editor.document.name}
			onclose={() => (picturing = false)}
		/>{/if}
</section>

<style>
	/* Words on buttons where there is room. */
	@container (max-width: 620px) {
		.wide {
			display: none;
		}
	}
</style>
