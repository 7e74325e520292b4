import type { RequestHandler } from '@sveltejs/kit';
import { packetFor } from '$lib/server/access/access';
import { onPacketChange } from '$lib/server/events/packetEvents';
import { house } from '$lib/server/house';

/** Proxies close connections that stay silent. */
const HEARTBEAT = 15_000;

/** Server-sent events: "changed" whenever something about the packet is new. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await house();
	const { packet } = await packetFor(db, locals, params.id!);
	const encoder = new TextEncoder();
	let stop = () => {};
	const stream = new ReadableStream({
		start(controller) {
			const send = (text: string) => {
				try {
					controller.enqueue(encoder.encode(text));
				} catch {
					stop();
				}
			};
			const off = onPacketChange(packet.id, () => send('event: changed\ndata: {}\n\n'));
			const heart = setInterval(() => send(': still here\n\n'), HEARTBEAT);
			stop = () => {
				off();
				clearInterval(heart);
			};
			send('retry: 1000\n\n');
		},
		cancel() {
			stop();
		}
	});
	return new Response(stream, {
		headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
	});
};
