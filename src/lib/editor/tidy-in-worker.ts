/** The layout, worked out in a worker that ends when it is done: it is asked for seldom, and its script is large. */
import type { ElkNode } from 'elkjs/lib/elk-api';
import type { Graph } from '$core/engine/index';
import type { LabelSize } from './tidy';
import { layoutOf, placesIn } from './tidy';

/** New places for all nodes and notes of a graph. Throws an error with a sentence. */
export async function tidied(
	graph: Graph,
	sizeOf: (id: string) => LabelSize
): Promise<Map<string, readonly [number, number]>> {
	const { default: Elk } = await import('elkjs/lib/elk-api.js');
	const elk = new Elk({
		workerFactory: () =>
			new Worker(new URL('elkjs/lib/elk-worker.min.js', import.meta.url), { type: 'module' })
	});
	try {
		return placesIn((await elk.layout(layoutOf(graph, sizeOf))) as ElkNode, graph, sizeOf);
	} catch (error) {
		throw new Error('The graph could not be laid out; nothing was moved.', { cause: error });
	} finally {
		elk.terminateWorker();
	}
}
