import { describe, expect, it } from 'vitest';
import { admit, NotAdmittedError } from './admit';

const post = (body: string | ReadableStream, headers: Record<string, string> = {}) =>
	new Request('http://membrana.example/x', {
		method: 'POST',
		body,
		headers,
		...(typeof body === 'string' ? {} : { duplex: 'half' })
	} as RequestInit);

describe('admit', () => {
	it('hands a body on as it came', async () => {
		const request = await admit(post('{"a":"😀"}', { 'content-type': 'application/json' }), '/any');
		expect(request.headers.get('content-type')).toBe('application/json');
		expect(await request.json()).toEqual({ a: '😀' });
	});

	it('reads no more than the route takes', async () => {
		let read = 0;
		const endless = new ReadableStream({
			pull(controller) {
				read += 10_000;
				controller.enqueue(new Uint8Array(10_000));
			}
		});
		await expect(admit(post(endless), '/any')).rejects.toMatchObject({ status: 413 });
		expect(read).toBeLessThan(100_000);
		await expect(admit(post('x'.repeat(4_001)), '/sign-in')).rejects.toThrow(NotAdmittedError);
		await admit(post('x'.repeat(200_000)), '/api/packets/[id]/changes');
	});

	it('leaves the bytes of files alone', async () => {
		const request = post('\0'.repeat(300_000));
		expect(await admit(request, '/api/uploads/[...path]')).toBe(request);
	});

	it('refuses what cannot be kept, and nothing that only looks like it', async () => {
		const refused = ['{"a":"\\u0000"}', '{"\\ud800":1}', '["\\uDC00\\ud800"]', 'login=a%00b', 'a\0b'];
		for (const body of refused) {
			await expect(admit(post(body), '/any'), body).rejects.toMatchObject({ status: 400 });
		}
		for (const body of [
			'{"a":"\\\\u0000"}',
			'{"a":"\\ud83d\\ude00"}',
			'{"a":"\\\\ud800"}',
			'no JSON \\u0000'
		]) {
			await expect(admit(post(body), '/any'), body).resolves.toBeInstanceOf(Request);
		}
		const address = new Request('http://membrana.example/x%00');
		await expect(admit(address, null)).rejects.toMatchObject({ status: 400 });
	});
});
