import { packetChanged } from './packetEvents';

/** From where a packet is open. */
export type Device = 'computer' | 'phone';

const open = new Map<string, Record<Device, number>>();

/** Notes that a packet is open somewhere, tells the others, and returns what to call when it is closed. */
export function enter(packetId: string, device: Device): () => void {
	const here = open.get(packetId) ?? { computer: 0, phone: 0 };
	open.set(packetId, here);
	here[device]++;
	packetChanged(packetId);
	let left = false;
	return () => {
		if (left) return;
		left = true;
		here[device]--;
		if (here.computer + here.phone === 0) open.delete(packetId);
		packetChanged(packetId);
	};
}

/** How many computers and phones have the packet open now. */
export function presentAt(packetId: string): Readonly<Record<Device, number>> {
	return open.get(packetId) ?? { computer: 0, phone: 0 };
}
