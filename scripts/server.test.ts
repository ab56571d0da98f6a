/** The server as it is built and started, spoken to in bytes: what it answers, and that it goes on. */
import assert from 'node:assert/strict';
import type { ChildProcess } from 'node:child_process';
import { spawn } from 'node:child_process';
import { connect } from 'node:net';
import { after, before, describe, test } from 'node:test';
import { serverOf } from './server.mjs';

let server: ChildProcess;
let port = 0;

/** Starts a server at a free port. */
async function start(): Promise<void> {
	server = spawn(process.execPath, ['scripts/server.mjs'], {
		env: { ...process.env, PORT: '4600' },
		stdio: ['ignore', 'pipe', 'ignore']
	});
	port = await new Promise<number>((done, fail) => {
		let said = '';
		server.stdout!.on('data', (chunk) => {
			said += chunk;
			const found = /http:\/\/127\.0\.0\.1:(\d+)/.exec(said);
			if (found) done(Number(found[1]));
		});
		server.on('exit', () => fail(new Error(`the server did not start: ${said}`)));
	});
}

const get = (path: string, headers: Record<string, string> = {}): Promise<Response> =>
	fetch(`http://127.0.0.1:${port}${path}`, { headers });
/** The bytes of an answer. */
const body = async (answer: Response): Promise<Buffer> => Buffer.from(await answer.arrayBuffer());

/** Sends bytes as they are, and waits until the server has said something or has let go. */
const sent = (text: string): Promise<string> =>
	new Promise((done) => {
		const socket = connect(port, '127.0.0.1');
		let answer = '';
		socket.on('data', (bytes) => {
			answer += bytes.toString('latin1');
			socket.destroy();
		});
		socket.on('error', () => {});
		socket.on('close', () => done(answer));
		socket.write(text, 'latin1');
		// Whoever has said half of it says no more.
		socket.end();
	});

describe('the server', () => {
	before(start);
	after(() => void server.kill());

	test('no range, however odd, ends the server: it answers and goes on', async () => {
		const whole = await body(await get('/icon.svg'));
		const ranges: [string, number][] = [
			['bytes=50-10', 200],
			['bytes=-', 200],
			['bytes=a-b', 200],
			['bytes=0-1,5-2', 200],
			['lines=1-2', 200],
			['bytes=999999999-', 416],
			['bytes=99999999999999999999-99999999999999999999999', 416],
			['bytes=0-9', 206],
			['bytes=5-5', 206]
		];
		for (const [range, status] of ranges) {
			const answer = await get('/icon.svg', { Range: range });
			const bytes = await body(answer);
			assert.equal(answer.status, status, range);
			if (status === 200) assert.equal(bytes.length, whole.length, range);
		}
		const part = await body(await get('/icon.svg', { Range: 'bytes=3-8', 'Accept-Encoding': 'identity' }));
		assert.deepEqual(part, whole.subarray(3, 9));
		assert.ok((await get('/api/health')).ok, 'it goes on');
	});

	test('2,000 malformed requests: each is answered or let go, and the server goes on', async () => {
		let seed = 7;
		const roll = (below: number) =>
			((seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff) >>> 12) % below;
		const noise = (length: number) => Array.from({ length }, () => String.fromCharCode(roll(256))).join('');
		const path = () =>
			[
				'/',
				'/..%2f..%2fetc/passwd',
				'/%',
				'/%00',
				'//',
				'/build/%ff',
				'/api/health?x=' + noise(20),
				'/' + 'a'.repeat(roll(20_000)),
				'/icon.svg',
				'*',
				'http://elsewhere/',
				'/\\..\\',
				'/%c0%ae%c0%ae/'
			][roll(13)];
		const header = () =>
			[
				'Range: bytes=9-1',
				'Range: ' + noise(30),
				'Accept-Encoding: ' + noise(10),
				'Content-Length: -5',
				'Content-Length: 2000000000',
				'Transfer-Encoding: chunked',
				'Host:',
				'Cookie: ' + 'a=b;'.repeat(roll(3000)),
				'Expect: 100-continue',
				'Upgrade: ' + noise(5),
				'If-None-Match: ' + noise(40),
				'If-Modified-Since: yesterday',
				noise(60)
			][roll(13)];
		const made = () => {
			const method = ['GET', 'HEAD', 'POST', 'PUT', 'TRACE', 'get', 'BREW', noise(3)][roll(8)];
			const version = ['HTTP/1.1', 'HTTP/1.1', 'HTTP/1.1', 'HTTP/1.0', 'HTTP/9', '', noise(8)][roll(7)];
			const headers = [...(roll(4) ? ['Host: a'] : []), ...Array.from({ length: roll(3) }, header)].join(
				'\r\n'
			);
			return `${method} ${path()} ${version}\r\n${headers}\r\n${roll(3) ? '\r\n' : ''}${roll(4) ? '' : noise(roll(2000))}`;
		};
		const statuses = new Map<string, number>();
		for (let i = 0; i < 2000; i++) {
			const answer = await sent(made());
			const status = /^HTTP\/1\.1 (\d{3})/.exec(answer)?.[1] ?? 'none';
			statuses.set(status, (statuses.get(status) ?? 0) + 1);
			// No stack, and nothing of the file system, is told to anybody.
			assert.doesNotMatch(answer, /at \S+ \(|node_modules|\/work\/|root:/);
			assert.equal((await get('/api/health')).status, 200, `after request ${i}`);
		}
		assert.ok((statuses.get('400') ?? 0) > 300, `${statuses.get('400')} of 400`);
		assert.ok((statuses.get('405') ?? 0) > 50, `${statuses.get('405')} of 405`);
		assert.ok((statuses.get('413') ?? 0) > 5, `${statuses.get('413')} of 413`);
		assert.ok((statuses.get('200') ?? 0) > 5, `${statuses.get('200')} of 200`);
	});

	test('bodies are not read, slow clients hold up nobody, and every answer says what pages may do', async () => {
		const posted = await sent(
			`POST / HTTP/1.1\r\nHost: a\r\nContent-Length: 2000000000\r\n\r\n${'x'.repeat(5000)}`
		);
		assert.match(posted, /^HTTP\/1\.1 405 [\s\S]*Allow: GET, HEAD[\s\S]*Only GET and HEAD/);
		const slow = Array.from({ length: 300 }, () => {
			const socket = connect(port, '127.0.0.1');
			socket.on('error', () => {});
			socket.write('GET / HTTP/1.1\r\nHost: a\r\nX-Slow: ');
			return socket;
		});
		for (let i = 0; i < 20; i++) assert.equal((await get('/api/health')).status, 200);
		for (const socket of slow) socket.destroy();
		for (const path of ['/', '/icon.svg', '/api/health', '/nowhere']) {
			const { headers } = await get(path);
			assert.match(headers.get('permissions-policy') ?? '', /camera=\(\)/, path);
			assert.equal(headers.get('x-content-type-options'), 'nosniff', path);
		}
		const page = await get('/');
		assert.match(page.headers.get('content-security-policy') ?? (await page.text()), /form-action 'none'/);
	});
});

describe('connections that a browser opens ahead', () => {
	/** What a server of little patience says on a connection, and whether it has let go. */
	async function heard(said: string): Promise<string> {
		const limits = { headersTimeout: 200, requestTimeout: 400, connectionsCheckingInterval: 50 };
		const server = serverOf(
			(_: unknown, response: { end(text: string): void }) => response.end('answered'),
			limits
		);
		await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
		const { port } = server.address() as { port: number };
		try {
			return await new Promise<string>((done, fail) => {
				let answer = '';
				const socket = connect(port, '127.0.0.1', () => said && socket.write(said));
				socket.on('data', (bytes) => (answer += bytes.toString('latin1')));
				socket.on('error', fail);
				socket.on('close', () => done(answer));
			});
		} finally {
			server.close();
		}
	}

	test('one that stays silent is closed without a word, which would be taken for an answer', async () => {
		const all = await Promise.all(Array.from({ length: 20 }, () => heard('')));
		assert.deepEqual(new Set(all), new Set(['']));
	});

	test('one that says half of something is told that it is no request', async () => {
		assert.match(await heard('GET / HTTP/1.1\r\nHost: a\r\nX-Slow: '), /^HTTP\/1\.1 400 /);
	});
});
