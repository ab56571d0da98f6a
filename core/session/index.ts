export { chosen } from './choices.ts';
export type { Choices } from './choices.ts';
export { evaluatorFor, exportDetails, openFile, runJob } from './job.ts';
export type { JobOptions, JobReport, NodeLine, OpenedFile, Override } from './job.ts';
