import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { AsyncLocalStorage } from 'node:async_hooks';
import { FileStore } from '@tus/file-store';
import { Server, type Upload } from '@tus/server';
import { isStorable, shorten } from '../../core/text/storable';
import { LIMITS } from '../codec/limits';
import { packetChanged } from '../events/packetEvents';
import type { Services } from '../services/services';
import { packetById } from '../store/packets';
import { whyFull } from '../settings/storageLimits';
import { addSource, heldBy, sourceByUpload } from '../store/sources';

/** What a request may do, as `access/` found it: nothing else is looked at for it. */
export interface UploadGrant {
	/** The upload that it goes on with; null: it begins one. */
	readonly id: string | null;
	readonly packetId: string;
	readonly personId: string;
	readonly phoneLinkId: string | null;
}

/** What is known of an upload: whose it is, and how far. */
interface UploadRow {
	readonly id: string;
	readonly packetId: string;
	readonly phoneLinkId: string | null;
	/** Bytes, once it is complete and kept. */
	readonly kept: number | null;
}

const ID = /^[0-9a-f]{32}$/;
/** An upload that nobody went on with for this long is given up. */
const ABANDONED = 7 * 24 * 3600_000;
/** Uploads that one person may have begun and not finished. */
const MOST_BEGUN = 400;

/** A refusal in the protocol's words; the body is for people. */
const refusal = (status_code: number, body: string) => ({ status_code, body: `${body}\n` });

/**
 * Resumable uploads by the tus protocol. The last byte is acknowledged only when the file is in the
 * vault and its source is in the database; a file whose acknowledgement was lost is settled when it
 * is next asked after, or at the next start. One that cannot be settled is set apart and holds nothing else up.
 */
export class Uploads {
	readonly #store: FileStore;
	readonly #server: Server;
	readonly #settling = new Map<string, Promise<void>>();
	readonly #grant = new AsyncLocalStorage<UploadGrant>();

	constructor(
		readonly services: Services,
		readonly folder: string
	) {
		this.#store = new FileStore({ directory: folder });
		this.#server = new Server({
			path: '/api/uploads',
			relativeLocation: true,
			maxSize: LIMITS.bytes,
			datastore: this.#store,
			allowedOrigins: [],
			// What the address says was read once, by who gave the grant.
			getFileIdFromRequest: () => this.#grant.getStore()?.id ?? undefined,
			onUploadCreate: async (_, upload) => {
				const grant = this.#grant.getStore();
				if (!grant) throw refusal(403, 'Nobody may begin this upload.');
				const values = Object.values(upload.metadata ?? {});
				if (!values.every((value) => isStorable(value ?? ''))) {
					throw refusal(400, 'There are characters in the name of this file that cannot be kept. Rename it.');
				}
				await this.#needRoom(grant, upload.size ?? 0);
				this.services.pool.expectPages();
				const { packetId: packet, personId: by, phoneLinkId } = grant;
				// Where it goes and who brings it is ours to say, whatever the client says.
				return { metadata: { ...upload.metadata, packet, by, link: phoneLinkId ?? '' } };
			},
			onUploadFinish: async (_, upload) => {
				await this.settle(upload.id);
				return {};
			}
		});
	}

	/** Answers a request within what was granted. */
	async handle(request: Request, grant: UploadGrant): Promise<Response> {
		if (request.method === 'PATCH' && this.services.disk.isLow()) {
			return new Response(`${this.services.disk.sentence}\n`, {
				status: 507,
				headers: { ...TUS, connection: 'close' }
			});
		}
		if (request.method === 'HEAD' && grant.id) await this.settle(grant.id);
		const answer = await this.#grant.run(grant, () => this.#server.handleWeb(request));
		// What is complete is in the vault, perhaps only since this waited for its turn behind another request: it is not gone.
		const isGone = answer.status === 404 || answer.status === 410;
		return (isGone && (await this.#answerOfComplete(request, grant))) || answer;
	}

	/** What is said of an upload that is complete and kept, whose bytes are not here any more; null for any other. */
	async #answerOfComplete({ method }: Request, { id }: UploadGrant): Promise<Response | null> {
		const kept = id && (await this.find(id))?.kept;
		if (typeof kept !== 'number') return null;
		const length = String(kept);
		const headers = { ...TUS, 'upload-offset': length, 'upload-length': length };
		if (method === 'HEAD') return new Response(null, { headers });
		return new Response('This upload is complete already.\n', { status: 409, headers });
	}

	/** What the protocol offers; the same for everybody. */
	options(request: Request): Promise<Response> {
		return this.#server.handleWeb(request);
	}

	/** An upload by its id, or null when there is none. */
	async find(id: string): Promise<UploadRow | null> {
		if (!ID.test(id)) return null;
		const upload = await this.#upload(id);
		const packetId = upload?.metadata?.packet;
		if (upload && packetId) return { id, packetId, phoneLinkId: upload.metadata?.link || null, kept: null };
		const source = await sourceByUpload(this.services.db, id);
		return source && { id, packetId: source.packetId, phoneLinkId: source.phoneLinkId, kept: source.bytes };
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
		const { db, vault, queue } = this.services;
		const upload = await this.#upload(uploadId);
		const packetId = upload?.metadata?.packet;
		if (!upload || !packetId || upload.size === undefined || upload.offset !== upload.size) return;
		if (await sourceByUpload(db, uploadId)) return this.#remove(uploadId);
		if (!(await packetById(db, packetId))) {
			return this.#setApart(uploadId, 'its packet is not there any more');
		}
		const kept = await vault.put(join(this.folder, uploadId));
		const { id, isNew } = await addSource(db, {
			...kept,
			packetId,
			uploadId,
			name: shorten(upload.metadata?.name ?? '', 300) || 'unnamed',
			batch: whole(upload.metadata?.batch),
			place: whole(upload.metadata?.place),
			clientKey: short(upload.metadata?.key),
			afterPage: upload.metadata?.after === undefined ? null : shorten(upload.metadata.after ?? '', 64),
			replaces: short(upload.metadata?.replaces),
			broughtBy: upload.metadata?.by || null,
			phoneLinkId: upload.metadata?.link || null
		});
		if (isNew) {
			packetChanged(packetId);
			await queue.add('take-in', { sourceId: id }, { packetId });
		}
		// What is acknowledged is on the disk by now. A client whose answer was lost asks again, and learns from the
		// source that its upload is complete.
		await this.#remove(uploadId);
	}

	/**
	 * At the start: uploads that were complete when the process died are kept now, those that nobody goes on with are
	 * given up, and what cannot be settled is set apart.
	 */
	async settleAll(): Promise<void> {
		const keys = (await this.#store.configstore.list?.()) ?? [];
		for (const key of keys) {
			try {
				await this.settle(key);
				await this.#giveUpAbandoned(key);
			} catch (reason) {
				await this.#setApart(key, (reason as Error).message).catch(console.error);
			}
		}
	}

	async #giveUpAbandoned(uploadId: string): Promise<void> {
		const touched = await stat(join(this.folder, uploadId)).catch(() => null);
		if (touched && Date.now() - touched.mtimeMs > ABANDONED) await this.#remove(uploadId);
	}

	/** Refuses what there is no room for: on the disk, in the packet, or among what its person brought in. */
	async #needRoom({ packetId, personId }: UploadGrant, bytes: number): Promise<void> {
		const { db, disk, limits } = this.services;
		if (disk.isLow(bytes)) throw refusal(507, disk.sentence);
		const held = await heldBy(db, packetId, personId);
		const full = whyFull(limits, held, { files: 1, bytes });
		if (full) throw refusal(413, full);
		if ((await this.#begunBy(personId)) >= MOST_BEGUN) {
			throw refusal(
				429,
				`${MOST_BEGUN} uploads have been begun and not finished. Finish some of them first.`
			);
		}
	}

	async #begunBy(personId: string): Promise<number> {
		const begun = (await readdir(this.folder)).filter((name) => name.endsWith('.json'));
		if (begun.length < MOST_BEGUN) return 0;
		let count = 0;
		for (const name of begun) {
			const upload = await this.#upload(name.slice(0, -'.json'.length));
			if (upload?.metadata?.by === personId) count++;
		}
		return count;
	}

	async #setApart(uploadId: string, reason: string): Promise<void> {
		const apart = join(this.folder, '..', 'set apart');
		await mkdir(apart, { recursive: true });
		for (const name of [uploadId, `${uploadId}.json`]) {
			await rename(join(this.folder, name), join(apart, name)).catch(() => undefined);
		}
		console.error(`The upload ${uploadId} could not be kept and lies in "set apart" now: ${reason}`);
	}

	async #remove(uploadId: string): Promise<void> {
		await rm(join(this.folder, uploadId), { force: true });
		await rm(join(this.folder, `${uploadId}.json`), { force: true });
	}

	async #upload(uploadId: string): Promise<Upload | null> {
		if (!ID.test(uploadId)) return null;
		try {
			return await this.#store.getUpload(uploadId);
		} catch {
			return null;
		}
	}
}

const TUS = { 'tus-resumable': '1.0.0', 'cache-control': 'no-store' };

function short(text: string | null | undefined): string | null {
	return text ? shorten(text, 80) : null;
}

function whole(text: string | null | undefined): number {
	const n = Number(text);
	return Number.isSafeInteger(n) && n >= 0 ? n : 0;
}
