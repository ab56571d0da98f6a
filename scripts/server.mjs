// Serves the built application. Every answer, files too, carries the headers that let pages use shared memory.
import { createServer } from 'node:http';
import { pathToFileURL } from 'node:url';

/**
 * Serves at a port, or at the next free one where that is taken.
 * @returns the server, and the port that it got.
 */
export async function serve(port, host) {
	const { handler } = await import('../build/handler.js');
	const server = serverOf(handler);
	return { server, port: await listen(server, port, host) };
}

/** A server that answers by a handler, within limits; it does not listen yet. */
export function serverOf(handler, limits = LIMITS) {
	const server = createServer(limits, (request, response) => {
		for (const [name, value] of HEADERS) response.setHeader(name, value);
		const why = whyRefused(request);
		if (why) return turnAway(request, response, ...why);
		withSoundRange(request);
		// What fails is answered and logged; the process goes on for everybody else.
		Promise.resolve()
			.then(() => handler(request, response))
			.catch((error) => refuse(request, response, error));
	});
	// What is no request at all is answered in one line, and let go. A connection on which nothing was said is closed without a
	// word: browsers open some ahead, and would take the line for the answer to what they ask there first.
	server.on('clientError', (error, socket) => {
		if (socket.writable && socket.bytesRead > 0)
			socket.end('HTTP/1.1 400 Bad Request\r\nConnection: close\r\n\r\n');
		else socket.destroy();
	});
	server.maxConnections = MOST_CONNECTIONS;
	return server;
}

/** Who sends slowly is let go: milliseconds for the headers, for a whole request, and between two requests. */
const LIMITS = {
	headersTimeout: 10_000,
	requestTimeout: 15_000,
	keepAliveTimeout: 5_000,
	connectionsCheckingInterval: 2_000,
	maxHeaderSize: 16_384
};
const MOST_CONNECTIONS = 4_000;

const HEADERS = Object.entries({
	'Cross-Origin-Opener-Policy': 'same-origin',
	'Cross-Origin-Embedder-Policy': 'require-corp',
	'Cross-Origin-Resource-Policy': 'same-origin',
	'Permissions-Policy':
		'accelerometer=(), camera=(), display-capture=(), geolocation=(), gyroscope=(), hid=(), magnetometer=(), microphone=(), midi=(), payment=(), serial=(), usb=()',
	'Referrer-Policy': 'no-referrer',
	'X-Content-Type-Options': 'nosniff'
});

/** Nothing here takes a body, so none is read: the status and the sentence with which a request is turned away. */
function whyRefused({ method, headers }) {
	if (method !== 'GET' && method !== 'HEAD') return [405, 'Only GET and HEAD are answered here.'];
	const hasBody = headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0;
	return hasBody ? [413, 'Requests have no body here.'] : null;
}

function turnAway(request, response, status, sentence) {
	response.writeHead(status, {
		'Content-Type': 'text/plain; charset=utf-8',
		Connection: 'close',
		...(status === 405 && { Allow: 'GET, HEAD' })
	});
	// What is still on its way is not waited for.
	response.end(sentence, () => request.destroy());
}

/** A range that makes no sense, such as one whose start lies behind its end, counts as none: the whole is sent. */
function withSoundRange({ headers }) {
	if (headers.range === undefined) return;
	const [, from, to] = /^bytes=(\d*)-(\d*)$/.exec(headers.range.trim()) ?? [];
	const isSound = (from || to) && !(from && to && Number(from) > Number(to));
	if (!isSound) delete headers.range;
}

function refuse(request, response, error) {
	console.error(`${request.method} ${request.url} 500 ${error?.message ?? error}`);
	if (!response.headersSent) response.writeHead(500, { 'Content-Type': 'text/plain; charset=utf-8' });
	response.end('The server could not answer this. Try again.');
}

const TRIES = 50;

async function listen(server, first, host) {
	for (let port = first; port < first + TRIES; port++) {
		const problem = await new Promise((done) => {
			server.once('error', done);
			server.listen(port, host, () => {
				server.off('error', done);
				done(null);
			});
		});
		if (!problem) return server.address().port;
		if (problem.code !== 'EADDRINUSE') throw problem;
	}
	throw new Error(
		`The ports from ${first} to ${first + TRIES - 1} are all in use. Choose another: PORT=5000 npm run demo`
	);
}

if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href) {
	const host = process.env.HOST ?? '127.0.0.1';
	try {
		const { port } = await serve(Number(process.env.PORT ?? 4310), host);
		console.log(`Embrell is at http://${host.includes(':') ? `[${host}]` : host}:${port}`);
	} catch (error) {
		console.error(error.message);
		process.exit(1);
	}
}
