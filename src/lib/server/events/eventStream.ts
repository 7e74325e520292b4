import { onPacketChange } from './packetEvents';
import { enter, type Device } from './presence';

/** Proxies close connections that stay silent. */
const HEARTBEAT = 15_000;

/** Server-sent events about one packet: "changed" whenever something about it is new. */
export function eventStream(packetId: string, device: Device): Response {
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
			const off = onPacketChange(packetId, () => send('event: changed\ndata: {}\n\n'));
			const heart = setInterval(() => send(': still here\n\n'), HEARTBEAT);
			const leave = enter(packetId, device);
			stop = () => {
				off();
				clearInterval(heart);
				leave();
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
}
