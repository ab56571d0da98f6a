export { exampleOf } from './example.ts';
export type { Example } from './example.ts';
export { chapters, pageOf } from './page.ts';
export type { HandbookPage, PageRow } from './page.ts';
