/** Places in the memory that a page shares with its session. */

/** The revision that is to stop. */
export const STOP = 0;
/** Counts up while the session works, so that the page sees that it still can be asked. */
export const BEAT = 1;
/** The place of the node at work in the document, from 1; 0 for none. */
export const AT_WORK = 2;
