// Serves the built application. Every answer, files too, carries the headers that let pages use shared memory.
import { createServer } from 'node:http';

export async function serve(port, host) {
	const { handler } = await import('../build/handler.js');
	const server = createServer((request, response) => {
		response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
		response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
		response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
		response.setHeader('X-Content-Type-Options', 'nosniff');
		response.setHeader('Referrer-Policy', 'no-referrer');
		handler(request, response);
	});
	server.on('error', (error) => {
		console.error(
			error.code === 'EADDRINUSE'
				? `Port ${port} is in use. Choose another: PORT=4311 npm run demo`
				: error.message
		);
		process.exit(1);
	});
	await new Promise((done) => server.listen(port, host, done));
	return server;
}

if (import.meta.url === `file://${process.argv[1]}`) {
	const port = Number(process.env.PORT ?? 4310);
	const host = process.env.HOST ?? '127.0.0.1';
	await serve(port, host);
	console.log(`Embrell is at http://${host.includes(':') ? `[${host}]` : host}:${port}`);
}
