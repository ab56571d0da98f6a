// A port for a server that is started in a moment: the wanted one, or any free one where that is taken.
import { createServer } from 'node:net';

export async function freePort(wanted, host = '127.0.0.1') {
	const tryPort = (port) =>
		new Promise((done) => {
			const server = createServer();
			server.once('error', () => done(null));
			server.listen(port, host, () => {
				const { port: got } = server.address();
				server.close(() => done(got));
			});
		});
	return (await tryPort(wanted)) ?? (await tryPort(0));
}
