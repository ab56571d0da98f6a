// Serves the built application. Every answer, files too, carries the headers that let pages use shared memory.
import { createServer } from 'node:http';
import { pathToFileURL } from 'node:url';

/**
 * Serves at a port, or at the next free one where that is taken.
 * @returns the server, and the port that it got.
 */
export async function serve(port, host) {
	const { handler } = await import('../build/handler.js');
	const server = createServer((request, response) => {
		response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
		response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
		response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
		response.setHeader('X-Content-Type-Options', 'nosniff');
		response.setHeader('Referrer-Policy', 'no-referrer');
		withSoundRange(request);
		// What fails is answered and logged; the process goes on for everybody else.
		Promise.resolve()
			.then(() => handler(request, response))
			.catch((error) => refuse(request, response, error));
	});
	return { server, port: await listen(server, port, host) };
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
