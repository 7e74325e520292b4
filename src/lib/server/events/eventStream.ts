import { onPacketChange } from './packetEvents';
import { enter, type Device } from './presence';
import { onRightsChange } from './rights';

/** Proxies close connections that stay silent. Also how long a right that ran out by itself is still believed. */
const HEARTBEAT = 15_000;
/** Milliseconds between two pieces of news: what happens in between is one. */
const PACE = 250;

/**
 * Server-sent events about one packet: "changed" whenever something about it is new.
 * @param stillMay whether who listens still may; the stream ends with their right
 */
export function eventStream(packetId: string, device: Device, stillMay: () => Promise<boolean>): Response {
	const encoder = new TextEncoder();
	let stop = () => {};
	const stream = new ReadableStream({
		start(controller) {
			let news: NodeJS.Timeout | null = null;
			let saidAt = 0;
			const send = (text: string) => {
				try {
					controller.enqueue(encoder.encode(text));
				} catch {
					stop();
				}
			};
			const say = () => {
				news = null;
				saidAt = Date.now();
				send('event: changed\ndata: {}\n\n');
			};
			const check = async () => {
				// Where nobody can be asked, nobody is believed.
				if (await stillMay().catch(() => false)) return;
				stop();
				try {
					controller.close();
				} catch {
					// Whoever listened has gone already.
				}
			};
			const offNews = onPacketChange(packetId, () => {
				news ??= setTimeout(say, Math.max(0, saidAt + PACE - Date.now()));
			});
			const offRights = onRightsChange(() => void check());
			const heart = setInterval(() => {
				send(': still here\n\n');
				void check();
			}, HEARTBEAT);
			const leave = enter(packetId, device);
			stop = () => {
				offNews();
				offRights();
				clearInterval(heart);
				if (news) clearTimeout(news);
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
