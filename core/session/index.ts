export { exportDetails, openFile, runJob } from './job.ts';
export type { JobOptions, JobReport, NodeLine, OpenedFile, Override } from './job.ts';
