/** A result over frames, as one file that moves. */
import { NodeError } from '../math/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { framesOf } from '../engine/index.ts';
import type { ExportOptions } from './export.ts';
import { movingFile } from './export.ts';
import type { JobOptions, JobReport, OpenedFile } from './job.ts';
import { evaluatorFor, objectOf, runJob } from './job.ts';

/** Which frames, in order. */
export interface FrameRange {
	first: number;
	last: number;
}

export interface FramesHeard {
	/** Called when a frame is there. */
	done?: (frame: number, report: JobReport) => void;
}

/** All frames that a generator has. */
export const allFrames = (document: Parameters<typeof framesOf>[0]): FrameRange => {
	const { first, last } = framesOf(document);
	return { first, last };
};

/**
 * The result from one frame to another as one GLB or USD that moves. Throws NodeError where a frame has no result, or
 * where the format cannot follow.
 */
export function exportAnimation(
	file: OpenedFile,
	{ first, last }: FrameRange,
	options: Omit<JobOptions, 'frame'>,
	wanted: ExportOptions,
	{ done }: FramesHeard = {}
): Uint8Array {
	const { document } = file;
	const evaluator = options.evaluator ?? evaluatorFor(file, options);
	const moving = movingFile(
		{ object: objectOf(document), ...wanted },
		{ rate: framesOf(document).rate, frames: last - first + 1 }
	);
	for (let frame = first; frame <= last; frame++) {
		const report = resultAt(file, { ...options, frame, evaluator });
		evaluator.ledger.work(() => moving.add(report.geometry, frame, report.cameras));
		done?.(frame, report);
	}
	return evaluator.ledger.work(() => moving.bytes());
}

/** The report of a frame that has a result. Throws NodeError with what failed where it has none. */
export function resultAt(file: OpenedFile, options: JobOptions): JobReport & { geometry: Geometry } {
	const report = runJob(file, options);
	const { nodes, geometry } = report;
	if (geometry) return { ...report, geometry };
	const failed = nodes.find(({ error }) => error);
	throw new NodeError(
		`At frame ${options.frame ?? 1} there is no result.${failed ? ` ${failed.node}: ${failed.error}` : ''}`
	);
}

/** Files of frames stand in their order: 0007, 0012. */
export const numbered = (frame: number): string =>
	(frame < 0 ? '-' : '') + String(Math.abs(frame)).padStart(4, '0');
