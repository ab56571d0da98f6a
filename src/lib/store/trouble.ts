/** What is wrong with the browser's storage, in our words. */

const CLOSED =
	'The browser has closed its storage under this page. It is tried again every few seconds, and goes on by itself.';

const SENTENCES: Readonly<Record<string, string>> = {
	QuotaExceededError: 'The disk is full. Free some space.',
	VersionError:
		'A newer version of this page has changed what is stored. Reload this page to go on with that one.',
	SecurityError: 'This browser lets the page keep nothing.',
	InvalidStateError: CLOSED,
	AbortError: CLOSED,
	TransactionInactiveError: CLOSED,
	UnknownError: CLOSED,
	NotFoundError: CLOSED
};

/** Something that went wrong while the store was read or written, as a sentence with a way out. */
export function storageTrouble(error: unknown): string {
	const { name = '', message = '' } = error instanceof Error ? error : {};
	if (Object.hasOwn(SENTENCES, name)) return SENTENCES[name];
	// Where there is no database at all, our call is one of nothing.
	if (typeof indexedDB === 'undefined') return SENTENCES.SecurityError;
	return message || CLOSED;
}
