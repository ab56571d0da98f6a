import { expect, test } from '@playwright/test';

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
