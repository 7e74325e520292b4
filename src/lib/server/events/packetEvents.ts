import { EventEmitter } from 'node:events';

const emitter = new EventEmitter().setMaxListeners(0);

/** Tells everyone who has this packet open that something about it is new. */
export function packetChanged(packetId: string): void {
	emitter.emit(packetId);
}

/** Calls back at every change until the returned function is called. */
export function onPacketChange(packetId: string, callback: () => void): () => void {
	emitter.on(packetId, callback);
	return () => emitter.off(packetId, callback);
}
