import { connect } from 'node:net';
import { expect, test } from './test';

test('no range, however odd, ends the server: it answers and goes on', async ({ request }) => {
	const whole = await (await request.get('/icon.svg')).body();
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
		const answer = await request.get('/icon.svg', { headers: { Range: range } });
		expect(answer.status(), range).toBe(status);
		if (status === 200) expect((await answer.body()).length).toBe(whole.length);
	}
	const headers = { Range: 'bytes=3-8', 'Accept-Encoding': 'identity' };
	expect((await (await request.get('/icon.svg', { headers })).body()).toString()).toBe(
		whole.subarray(3, 9).toString()
	);
	expect((await request.get('/api/health')).ok()).toBe(true);
});

/** Sends bytes as they are, and waits until the server has said something or has let go. */
const sent = (port: number, text: string): Promise<string> =>
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

test('2,000 malformed requests: each is answered or let go, and the server goes on', async ({
	request,
	baseURL
}) => {
	const port = Number(new URL(baseURL!).port);
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
		const answer = await sent(port, made());
		const status = /^HTTP\/1\.1 (\d{3})/.exec(answer)?.[1] ?? 'none';
		statuses.set(status, (statuses.get(status) ?? 0) + 1);
		// No stack, and nothing of the file system, is told to anybody.
		expect(answer).not.toMatch(/at \S+ \(|node_modules|\/work\/|root:/);
		const health = await request.get('/api/health');
		expect(health.status(), `after request ${i}`).toBe(200);
	}
	expect(statuses.get('400') ?? 0).toBeGreaterThan(300);
	expect(statuses.get('405') ?? 0).toBeGreaterThan(50);
	expect(statuses.get('413') ?? 0).toBeGreaterThan(5);
	expect(statuses.get('200') ?? 0).toBeGreaterThan(5);
});

test('bodies are not read, slow clients hold up nobody, and every answer says what pages may do', async ({
	request,
	baseURL
}) => {
	const port = Number(new URL(baseURL!).port);
	const posted = await sent(
		port,
		`POST / HTTP/1.1\r\nHost: a\r\nContent-Length: 2000000000\r\n\r\n${'x'.repeat(5000)}`
	);
	expect(posted).toMatch(/^HTTP\/1\.1 405 [\s\S]*Allow: GET, HEAD[\s\S]*Only GET and HEAD/);
	const slow = Array.from({ length: 300 }, () => {
		const socket = connect(port, '127.0.0.1');
		socket.on('error', () => {});
		socket.write('GET / HTTP/1.1\r\nHost: a\r\nX-Slow: ');
		return socket;
	});
	for (let i = 0; i < 20; i++) expect((await request.get('/api/health')).status()).toBe(200);
	for (const socket of slow) socket.destroy();
	for (const path of ['/', '/icon.svg', '/api/health', '/nowhere']) {
		const headers = (await request.get(path)).headers();
		expect(headers['permissions-policy'], path).toContain('camera=()');
		expect(headers['x-content-type-options'], path).toBe('nosniff');
	}
	expect(
		(await request.get('/')).headers()['content-security-policy'] ?? (await (await request.get('/')).text())
	).toContain("form-action 'none'");
});
