import { EventEmitter } from 'node:events';
import type { News } from '../store/database';
import { rightsChangedHere } from './rights';

const emitter = new EventEmitter().setMaxListeners(0);
/** Of whichever packet. */
const any = new EventEmitter().setMaxListeners(0);

function changedHere(packetId: string): void {
	emitter.emit(packetId);
	any.emit('changed', packetId);
}

let news: News | null = null;

/** Tells everyone who has this packet open that something about it is new, whichever process they are connected to. */
export function packetChanged(packetId: string): void {
	if (news) news.tell(`packet ${packetId}`);
	else changedHere(packetId);
}

/** Tells everyone who has one of these packets open. */
export function packetsChanged(packetIds: Iterable<string>): void {
	for (const id of packetIds) packetChanged(id);
}

/** Says that somebody may do less than before: a session or a phone link ended. Open streams ask again at once. */
export function rightsChanged(): void {
	if (news) news.tell('rights');
	else rightsChangedHere();
}

/** Says that ways to hand in were set anew, to the other processes. */
export function tellSettingsChanged(): void {
	news?.tell('settings');
}

let settingsCallback: () => void = () => {};

/** Calls back when another process has set ways to hand in anew, or may have. */
export function onSettingsChanged(callback: () => void): void {
	settingsCallback = callback;
}

/** Calls back with the packet at every change of any, with null where some may have been missed, until the returned function is called. */
export function onAnyPacketChange(callback: (packetId: string | null) => void): () => void {
	any.on('changed', callback);
	return () => any.off('changed', callback);
}

/** Calls back at every change until the returned function is called. */
export function onPacketChange(packetId: string, callback: () => void): () => void {
	emitter.on(packetId, callback);
	return () => emitter.off(packetId, callback);
}

/** From now on events go through what connects the processes of one database. */
export function connectEvents(to: News | null): void {
	news = to;
	news?.hear((message) => {
		// Messages may have been missed: everyone looks again.
		if (message === null) {
			for (const packetId of emitter.eventNames()) emitter.emit(packetId);
			any.emit('changed', null);
			rightsChangedHere();
			settingsCallback();
			return;
		}
		const [what, id] = message.split(' ');
		if (what === 'packet' && id) changedHere(id);
		if (what === 'rights') rightsChangedHere();
		if (what === 'settings') settingsCallback();
	});
}
