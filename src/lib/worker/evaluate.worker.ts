/** The evaluation worker: a session of the core behind messages. */
import { Session } from '$core/session/session';
import type { Request } from '$core/session/messages';

const session = new Session({
	shared: typeof SharedArrayBuffer !== 'undefined' && self.crossOriginIsolated,
	say: (answer) => self.postMessage(answer)
});

self.onmessage = ({ data: request }: MessageEvent<Request>): void => session.take(request);
