import { truncate } from 'node:fs/promises';
import { join } from 'node:path';
import { AsyncLocalStorage } from 'node:async_hooks';
import { FileStore } from '@tus/file-store';
import { Server, type Upload } from '@tus/server';
import { LIMITS } from '../codec/limits';
import { packetChanged } from '../events/packetEvents';
import type { House } from '../house';
import { addSource, isUploadTaken } from '../store/sources';

/** Who brings a file, as `access/` found it. */
export interface Bringer {
	readonly personId: string;
	readonly phoneLinkId: string | null;
}

/**
 * Resumable uploads by the tus protocol. The last byte is acknowledged only when the file is in the
 * vault and its source is in the database; a file whose acknowledgement was lost is settled when it
 * is next asked after, or at the next start.
 */
export class Uploads {
	readonly #store: FileStore;
	readonly #server: Server;
	readonly #settling = new Map<string, Promise<void>>();
	readonly #bringer = new AsyncLocalStorage<Bringer>();

	constructor(
		readonly house: House,
		readonly folder: string
	) {
		this.#store = new FileStore({ directory: folder });
		this.#server = new Server({
			path: '/api/uploads',
			relativeLocation: true,
			maxSize: LIMITS.bytes,
			datastore: this.#store,
			// Who brings it is ours to say, whatever the client says.
			onUploadCreate: async (_, upload) => {
				const { personId = '', phoneLinkId } = this.#bringer.getStore() ?? {};
				return { metadata: { ...upload.metadata, by: personId, link: phoneLinkId ?? '' } };
			},
			onUploadFinish: async (_, upload) => {
				await this.settle(upload.id);
				return {};
			}
		});
	}

	handle(request: Request, bringer?: Bringer): Promise<Response> {
		const handle = () => this.#server.handleWeb(request);
		return bringer ? this.#bringer.run(bringer, handle) : handle();
	}

	/** The packet an upload belongs to, or null when there is no such upload. */
	async packetOf(uploadId: string): Promise<string | null> {
		const upload = await this.#find(uploadId);
		return upload?.metadata?.packet ?? null;
	}

	/** Keeps an upload that is complete; harmless for any other. */
	settle(uploadId: string): Promise<void> {
		const running = this.#settling.get(uploadId);
		if (running) return running;
		const work = this.#settle(uploadId).finally(() => this.#settling.delete(uploadId));
		this.#settling.set(uploadId, work);
		return work;
	}

	async #settle(uploadId: string): Promise<void> {
		const { db, vault, queue } = this.house;
		const upload = await this.#find(uploadId);
		const packetId = upload?.metadata?.packet;
		if (!upload || !packetId || upload.size === undefined || upload.offset !== upload.size) return;
		if (await isUploadTaken(db, uploadId)) return;
		const path = join(this.folder, uploadId);
		const kept = await vault.put(path);
		const { id, isNew } = await addSource(db, {
			...kept,
			packetId,
			uploadId,
			name: nameOf(upload),
			batch: whole(upload.metadata?.batch),
			place: whole(upload.metadata?.place),
			clientKey: short(upload.metadata?.key),
			afterPage: upload.metadata?.after?.slice(0, 64) ?? null,
			replaces: short(upload.metadata?.replaces),
			broughtBy: upload.metadata?.by || null,
			phoneLinkId: upload.metadata?.link || null
		});
		// The upload keeps its length but not its bytes: a client whose answer was lost asks again and
		// must learn that it is complete, not begin anew.
		await truncate(path, 0);
		await truncate(path, kept.bytes);
		if (isNew) {
			packetChanged(packetId);
			await queue.add('take-in', { sourceId: id });
		}
	}

	/** At the start: uploads that were complete when the process died are kept now. */
	async settleAll(): Promise<void> {
		const keys = (await this.#store.configstore.list?.()) ?? [];
		for (const key of keys) await this.settle(key);
	}

	async #find(uploadId: string): Promise<Upload | null> {
		if (!/^[0-9a-f]{32}$/.test(uploadId)) return null;
		try {
			return await this.#store.getUpload(uploadId);
		} catch {
			return null;
		}
	}
}

function nameOf(upload: Upload): string {
	return (upload.metadata?.name ?? '').slice(0, 300) || 'unnamed';
}

function short(text: string | null | undefined): string | null {
	return text ? text.slice(0, 80) : null;
}

function whole(text: string | null | undefined): number {
	const n = Number(text);
	return Number.isSafeInteger(n) && n >= 0 ? n : 0;
}
