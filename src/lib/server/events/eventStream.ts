import { onAnyPacketChange, onPacketChange } from './packetEvents';
import { enter, type Device } from './presence';
import { onRightsChange } from './rights';

/** Proxies close connections that stay silent. Also how long a right that ran out by itself is still believed. */
const HEARTBEAT = 15_000;
/** Milliseconds between two pieces of news: what happens in between is one. */
const PACE = 250;
const CLASS_PACE = 2_000;

/**
 * Server-sent events about one packet: "changed" whenever something about it is new.
 * @param stillMay whether who listens still may; the stream ends with their right
 */
export function eventStream(packetId: string, device: Device, stillMay: () => Promise<boolean>): Response {
	return changes(PACE, stillMay, (changed) => {
		const off = onPacketChange(packetId, changed);
		const leave = enter(packetId, device);
		return () => {
			off();
			leave();
		};
	});
}

/**
 * Server-sent events about all packets of a class.
 * @param belongs whether a packet is one of the class's; asked once for each
 */
export function classStream(
	belongs: (packetId: string) => Promise<boolean>,
	stillMay: () => Promise<boolean>
): Response {
	const known = new Map<string, Promise<boolean>>();
	return changes(CLASS_PACE, stillMay, (changed) =>
		onAnyPacketChange((packetId) => {
			if (packetId === null) return changed();
			const own = known.get(packetId) ?? belongs(packetId).catch(() => false);
			known.set(packetId, own);
			void own.then((is) => is && changed());
		})
	);
}

/**
 * A stream that says "changed", at most once in so many milliseconds.
 * @param listen has the callback called at every change, until what it returns is called
 */
function changes(
	pace: number,
	stillMay: () => Promise<boolean>,
	listen: (changed: () => void) => () => void
): Response {
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
			const offNews = listen(() => {
				news ??= setTimeout(say, Math.max(0, saidAt + pace - Date.now()));
			});
			const offRights = onRightsChange(() => void check());
			const heart = setInterval(() => {
				send(': still here\n\n');
				void check();
			}, HEARTBEAT);
			stop = () => {
				offNews();
				offRights();
				clearInterval(heart);
				if (news) clearTimeout(news);
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
