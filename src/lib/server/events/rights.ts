import { EventEmitter } from 'node:events';

const emitter = new EventEmitter().setMaxListeners(0);

/** Has the streams of this process ask whether they still may; `rightsChanged` does so in all processes. */
export function rightsChangedHere(): void {
	emitter.emit('changed');
}

/** Calls back whenever somebody may do less, until the returned function is called. */
export function onRightsChange(callback: () => void): () => void {
	emitter.on('changed', callback);
	return () => emitter.off('changed', callback);
}
