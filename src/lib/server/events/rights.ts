import { EventEmitter } from 'node:events';

const emitter = new EventEmitter().setMaxListeners(0);

/** Says that somebody may do less than before: a session or a phone link ended. Open streams ask again at once. */
export function rightsChanged(): void {
	emitter.emit('changed');
}

/** Calls back whenever somebody may do less, until the returned function is called. */
export function onRightsChange(callback: () => void): () => void {
	emitter.on('changed', callback);
	return () => emitter.off('changed', callback);
}
