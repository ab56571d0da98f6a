/** What fails on the server is logged in one line, and told to nobody but as a sentence. */
import type { HandleServerError } from '@sveltejs/kit';

/** More of a path than this helps nobody. */
const MOST_SHOWN = 200;

export const handleError: HandleServerError = ({ event, status, error }) => {
	const why = status === 404 ? '' : ` ${(error as Error | null)?.message ?? 'unknown'}`;
	const path = event.url.pathname.slice(0, MOST_SHOWN).replace(/[^\x20-\x7e]/g, '?');
	console.error(`${event.request.method} ${path} ${status}${why}`);
	return {
		message: status === 404 ? 'There is no such page.' : 'The server could not answer this. Try again.'
	};
};
