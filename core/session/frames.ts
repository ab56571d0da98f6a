/** A result over frames, as one file that moves. */
import { NodeError } from '../math/index.ts';
import { framesOf } from '../engine/index.ts';
import type { ExportOptions } from './export.ts';
import { movingFile } from './export.ts';
import type { JobOptions, JobReport, OpenedFile } from './job.ts';
import { evaluatorFor, runJob } from './job.ts';

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
	const moving = movingFile(wanted, { rate: framesOf(document).rate, frames: last - first + 1 });
	for (let frame = first; frame <= last; frame++) {
		const report = runJob(file, { ...options, frame, evaluator });
		const { geometry } = report;
		if (!geometry) throw new NodeError(noResult(report, frame));
		evaluator.ledger.work(() => moving.add(geometry, frame));
		done?.(frame, report);
	}
	return evaluator.ledger.work(() => moving.bytes());
}

function noResult({ nodes }: JobReport, frame: number): string {
	const failed = nodes.find(({ error }) => error);
	return `At frame ${frame} there is no result.${failed ? ` ${failed.node}: ${failed.error}` : ''}`;
}
