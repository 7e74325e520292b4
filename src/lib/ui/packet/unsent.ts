import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Change } from '$lib/core/packet/change';
import type { QueuedFile, QueueStore } from './uploadQueue';

// What the server does not have yet is kept in the browser's own database, so that it outlives the page.

/** An edit on its way. Under its key the server carries it out once, however often it is sent. */
export type UnsentEdit = { readonly key: string } & (
	{ readonly kind: 'edit'; readonly change: Change } | { readonly kind: 'undo' | 'redo' }
);

interface Unsent extends DBSchema {
	files: { key: string; value: QueuedFile; indexes: { packet: string } };
	edits: {
		key: number;
		value: { readonly packet: string; readonly edit: UnsentEdit };
		indexes: { packet: string; key: string };
	};
}

let opened: Promise<IDBPDatabase<Unsent>> | null = null;

function database(): Promise<IDBPDatabase<Unsent>> {
	opened ??= openDB<Unsent>('membrana', 1, {
		upgrade(db) {
			db.createObjectStore('files', { keyPath: 'key' }).createIndex('packet', 'packet');
			const edits = db.createObjectStore('edits', { autoIncrement: true });
			edits.createIndex('packet', 'packet');
			edits.createIndex('key', 'edit.key');
		}
	});
	return opened;
}

/** Files that wait to be sent. */
export const unsentFiles: QueueStore = {
	async all(packet) {
		return (await database()).getAllFromIndex('files', 'packet', packet);
	},
	async put(file) {
		await (await database()).put('files', file);
	},
	async delete(key) {
		await (await database()).delete('files', key);
	}
};

/** Edits that wait to be sent, in the order they were made. */
export const unsentEdits = {
	async all(packet: string): Promise<UnsentEdit[]> {
		return (await (await database()).getAllFromIndex('edits', 'packet', packet)).map(({ edit }) => edit);
	},
	async put(packet: string, edit: UnsentEdit): Promise<void> {
		// Proxies of the interface cannot be cloned; an edit is plain data.
		await (await database()).add('edits', { packet, edit: JSON.parse(JSON.stringify(edit)) as UnsentEdit });
	},
	async delete(key: string): Promise<void> {
		const db = await database();
		const at = await db.getKeyFromIndex('edits', 'key', key);
		if (at !== undefined) await db.delete('edits', at);
	}
};

/**
 * Runs the work unless another tab is at it. Where the browser has no locks (over plain HTTP), it runs in any
 * case: the server takes one source for a file, however often it comes.
 */
export async function alone(key: string, work: () => Promise<void>): Promise<boolean> {
	if (!('locks' in navigator)) {
		await work();
		return true;
	}
	return navigator.locks.request(`membrana-unsent-${key}`, { ifAvailable: true }, async (lock) => {
		if (lock) await work();
		return lock !== null;
	});
}

/** A key that nobody else makes. crypto.randomUUID is there in secure contexts only. */
export function newKey(): string {
	const bytes = crypto.getRandomValues(new Uint8Array(16));
	return Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');
}
