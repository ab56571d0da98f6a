export { chosen } from './choices.ts';
export type { Choices } from './choices.ts';
export { allFrames, exportAnimation, numbered } from './frames.ts';
export type { FrameRange } from './frames.ts';
export { evaluatorFor, exportDetails, openFile, runJob } from './job.ts';
export type { JobOptions, JobReport, NodeLine, OpenedFile, Override } from './job.ts';
