<script lang="ts">
	import { untrack } from 'svelte';
	import { nodeKinds } from '$core/nodes/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import type { ViewPort } from '$lib/editor/hand';
	import { theme } from '$lib/ui/theme.svelte';
	import AxisNames from './AxisNames.svelte';
	import { backgroundIn } from '$lib/viewport/backgrounds';
	import type { CameraLink } from './camera-link.svelte';
	import { CardPicture, SHELF_PICTURE } from './card-picture';
	import { USUAL_LIGHT } from '$lib/viewport/light';
	import HeatLegend from './HeatLegend.svelte';
	import MarkersOver from './MarkersOver.svelte';
	import MarksOver from './MarksOver.svelte';
	import { ViewMarks } from './marks.svelte';
	import MeasureNews from './MeasureNews.svelte';
	import { Measuring } from './measuring.svelte';
	import { afterHandle, axesOf, handledOf, zonesOf } from '$lib/viewport/of-settings';
	import PathOverlay from './PathOverlay.svelte';
	import PictureDialog from './PictureDialog.svelte';
	import type { Direction, HandleMode, HandleValues, Shading, ViewScene } from '$lib/viewport/scene';
	import { nudgeByKey } from '$lib/viewport/nudge';
	import { giveBackView, takeView } from '$lib/viewport/spare';
	import { rest } from './rest.svelte';
	import ShownList from './ShownList.svelte';
	import ViewBar from './ViewBar.svelte';
	import ViewFoot from './ViewFoot.svelte';
	import ViewNews from './ViewNews.svelte';
	import { Asking } from './why.svelte';
	import WhySlip from './WhySlip.svelte';

	interface Props {
		editor: Editor;
		/** Whether it is looked at by a user of the generator, who knows of no graph. */
		dressed?: boolean;
		/** Whether something lies over it, so that it need not be refined. */
		covered?: boolean;
		/** Cameras that move as one; the first of them leads those that come. */
		link?: CameraLink;
	}
	let { editor, dressed = false, covered = false, link }: Props = $props();

	let around = $state<HTMLElement>();
	let scene = $state.raw<ViewScene>();
	let card: CardPicture | undefined;
	let shading = $state<Shading>('shaded');
	let direction = $state<Direction>('perspective');
	let nearHidden = $state(false);
	let grid = $state(true);
	let cell = $state(1);
	let handleMode = $state<HandleMode>('translate');
	let picturing = $state(false);
	/** A node without a result, in whose place the last good picture stands. */
	let keptFor = $state<string | null>(null);
	/** Whether it stands beside another one, whose camera it follows. */
	const isLed = untrack(() => !!link?.isLed);
	let fittedOnce = isLed;
	/** Of how many copies one is drawn. */
	let oneIn = $state(1);
	/** Whether the browser has taken the graphics away. */
	let lost = $state(false);
	/** Counts up as the picture moves, so that what lies over it is placed anew. */
	let moves = $state(0);
	const measuring = new Measuring(() => scene);
	const marks = untrack(() => new ViewMarks(editor));
	const asking = untrack(() => new Asking(editor));

	const { evaluation } = $derived(editor);
	const ground = $derived(backgroundIn(editor.document.view.background, theme.current));
	const light = $derived(editor.document.view.light ?? USUAL_LIGHT);
	const handled = $derived(handledOf(editor.graph, editor.activeNow));

	$effect(() => {
		const made = takeView();
		const { canvas } = made;
		canvas.className = 'block h-full w-full';
		canvas.setAttribute('aria-label', 'Picture of the result');
		around!.append(canvas);
		scene = made;
		card = new CardPicture(editor, made);
		const port: ViewPort = {
			picture: () => made.picture(SHELF_PICTURE).catch(() => null),
			get stand() {
				return made.cameraState;
			},
			get seen() {
				return made.seen;
			}
		};
		// The property is gone when this is undone.
		const held = editor;
		held.port = port;
		const picture = card;
		made.onGrid = (next) => (cell = next);
		made.onCamera = () => picture.outdate();
		made.onTaken = () => editor.lookThrough(null);
		made.onHandles = writeHandles;
		made.onShare = (share) => (oneIn = share);
		made.onLost = (gone) => (lost = gone);
		made.onMove = () => {
			moves++;
			link?.moved(made);
			measuring.placeLabel();
		};
		made.onDrawn = () => {
			if (evaluation.packet) editor.pictured = true;
		};
		if (untrack(() => editor.graph.nodes.length)) made.painter.expectContent();
		const { camera } = untrack(() => editor.document.view);
		if (camera) made.cameraState = camera;
		link?.join(made);
		const observer = new ResizeObserver(() => made.resize(around!.clientWidth, around!.clientHeight));
		observer.observe(around!);
		// For tests and screenshots, which look at the picture from outside.
		(canvas as unknown as { embrellView?: ViewScene }).embrellView = made;
		if (!isLed) (window as unknown as { embrellView?: ViewScene }).embrellView = made;
		return () => {
			observer.disconnect();
			link?.leave(made);
			if (held.port === port) held.port = null;
			picture.close().finally(() => giveBackView(made));
		};
	});
	$effect(() => {
		if (scene) scene.painter.refines = rest.refines && !covered;
	});
	$effect(() => scene?.setColours(ground.colours, ground.dark));
	$effect(() => {
		if (scene) scene.light = light;
	});
	$effect(() => {
		if (scene) scene.selected = editor.active?.id ?? null;
	});
	$effect(() => {
		const { packet } = evaluation;
		if (!packet || !scene) return;
		untrack(() => {
			const failed = new Set(
				editor.shown.filter((id) => ['error', 'waiting'].includes(evaluation.viewed.get(id)?.state ?? ''))
			);
			keptFor = scene!.take(packet, failed, evaluation.bounds) ? ([...failed][0] ?? null) : null;
			if (!fittedOnce && evaluation.bounds) {
				fittedOnce = true;
				// From where the file's camera looks, or else from a height that suits the shape.
				if (editor.document.view.camera) fitAll();
				else scene!.fitFresh(evaluation.bounds);
			}
			card?.outdate();
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
			if (evaluation.wireframe === wire) return;
			evaluation.wireframe = wire;
			editor.evaluate();
		});
	});
	$effect(() => scene?.setHandles(handled?.values ?? null, handled?.pivot ?? [0, 0, 0], handleMode));
	$effect(() =>
		scene?.showAxes(axesOf(editor.graph, editor.activeNow, (id) => evaluation.reports.get(id)?.bounds))
	);
	$effect(() =>
		scene?.showZones(zonesOf(editor.graph, editor.activeNow, (id) => evaluation.reports.get(id)?.bounds))
	);
	$effect(() => scene?.showMarked(editor.marked?.at ?? null));
	$effect(() => {
		const node = editor.active;
		scene?.showStaff(node?.kind === 'import-mesh' ? (evaluation.reports.get(node.id)?.bounds ?? null) : null);
	});

	function writeHandles(values: HandleValues, done: boolean) {
		const name = handled?.settings[handleMode];
		if (handled && name) editor.set(handled.node, name, afterHandle(handled, handleMode, values), 'handle');
		if (done) editor.endGesture();
	}

	export const fitAll = () => scene?.fit(evaluation.bounds, true);
	export const fitSelection = () =>
		scene?.fit((editor.active && evaluation.reports.get(editor.active.id)?.bounds) || evaluation.bounds);
	const cameras = $derived(
		editor.document.graphs.main.nodes
			.filter(({ kind }) => kind === 'camera')
			.map(({ id, short }) => ({ id, name: short }))
	);
	// A camera that is gone is looked through no longer.
	$effect(() => {
		if (editor.camera !== null && !cameras.some(({ id }) => id === editor.camera)) editor.lookThrough(null);
	});
	$effect(() => {
		if (editor.camera !== null && evaluation.seen && scene) scene.see(evaluation.seen);
	});
	export function look(next: Direction) {
		editor.lookThrough(null);
		direction = next;
		scene?.look(next);
		if (link) link.direction = next;
	}
	$effect(() => {
		const next = link?.direction;
		if (next && scene && next !== untrack(() => direction)) {
			direction = next;
			scene.look(next);
		}
	});
	export function setHandleMode(mode: HandleMode) {
		handleMode = mode;
	}
	/** What a key does to the view. Whether it meant something. */
	export function key(event: KeyboardEvent): boolean {
		if (event.key === 'Escape' && (asking.slip || asking.on)) {
			if (asking.slip) asking.close();
			else asking.toggle();
			return true;
		}
		if (event.key !== 'Escape' || !measuring.on) return !!scene && nudgeByKey(scene, event);
		measuring.toggle();
		return true;
	}

	let pressed = { x: 0, y: 0 };
	/** A click, as against a drag that turns the view. */
	function click({ clientX: x, clientY: y, button, altKey }: PointerEvent) {
		if (button !== 0 || Math.hypot(x - pressed.x, y - pressed.y) > 4) return;
		measuring.click(x, y);
		if (scene && !measuring.on && (asking.on || altKey)) return asking.click(scene, x, y);
		if (!measuring.on && editor.drawer === 'data') editor.picked = scene?.pick(x, y)?.point.toArray() ?? null;
	}
</script>

<svelte:window onpointermove={() => card?.wait()} onkeydown={() => card?.wait()} />
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<section
	class="@container relative h-full min-w-0 overflow-hidden outline-none"
	aria-label="View"
	tabindex="0"
>
	<div
		bind:this={around}
		class="absolute inset-0 {measuring.on ? 'cursor-crosshair' : asking.on ? 'cursor-help' : ''}"
		style="background: {ground.css}"
		role="presentation"
		onpointerdown={(event) => (pressed = { x: event.clientX, y: event.clientY })}
		onpointerup={click}
	></div>
	{#if scene && grid}<AxisNames {scene} {cell} {moves} />{/if}
	{#if scene && !dressed}<MarkersOver {editor} {scene} {moves} />{/if}
	<ViewBar
		bind:shading
		bind:nearHidden
		bind:grid
		{direction}
		background={editor.document.view.background}
		{light}
		onlight={(next, done) => {
			editor.setView({ light: next }, 'light');
			if (done) editor.endGesture();
		}}
		measuring={measuring.on}
		{marks}
		{dressed}
		asking={asking.on}
		onask={() => asking.toggle()}
		handles={handled && handleMode}
		onfit={(what) => (what === 'all' ? fitAll() : fitSelection())}
		onlook={look}
		{cameras}
		camera={editor.camera}
		oncamera={(id) => editor.lookThrough(id)}
		onkeepview={() => editor.keepView()}
		onbackground={(background) => editor.setView({ background })}
		onmeasure={() => measuring.toggle()}
		onpicture={() => (picturing = true)}
		onhandles={setHandleMode}
	/>
	{#if !dressed}<div class="absolute top-2 right-2"><ShownList {editor} /></div>{/if}
	{#if scene && editor.active && 'path' in nodeKinds.get(editor.active.kind)!.inputs}
		<PathOverlay {editor} {scene} node={editor.active} {moves} />
	{/if}
	{#if scene}<MarksOver {marks} {scene} {moves} evaluations={evaluation.count} />{/if}
	<WhySlip {editor} {asking} />
	{#if editor.heat && evaluation.packet?.heat}
		<HeatLegend
			facts={evaluation.packet.heat}
			name={editor.heat[0] ? (editor.viewNode(editor.heat[0])?.short ?? '') : editor.heat[1]}
			onhide={() => editor.toggleHeat(...(editor.heat as [string, string]))}
		/>
	{/if}
	<MeasureNews {measuring} />
	<ViewNews {editor} {keptFor} />
	<ViewFoot {editor} cell={grid ? cell : null} {oneIn} />
	{#if lost}<p
			class="absolute inset-x-8 top-1/3 mx-auto max-w-sm rounded border border-ochre bg-sheet p-3 text-center"
			role="alert"
		>
			The browser has taken the graphics away. The picture comes back by itself; your work is not touched.
		</p>{/if}
	{#if picturing && scene}<PictureDialog
			{scene}
			name={editor.document.name}
			onclose={() => (picturing = false)}
		/>{/if}
</section>
