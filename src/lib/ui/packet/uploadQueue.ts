import { DetailedError, Upload } from 'tus-js-client';

/** A file on its way, as it is kept until the server has it. */
export interface QueuedFile {
	/** Ours alone: the server takes one source for it, however often it is sent. */
	readonly key: string;
	readonly packet: string;
	readonly name: string;
	readonly blob: Blob;
	/** Files given in one go, and the place among them. */
	readonly batch: number;
	readonly place: number;
	/** The page behind which its pages go; '' is the start, undefined the end. */
	readonly after?: string;
	/** A page, or 'key:' and the key of another file, whose picture this one takes the place of. */
	readonly replaces?: string;
	/** Address of the begun upload, to go on with. */
	url?: string;
}

/** Where files wait; outlives the page where the browser allows it. */
export interface QueueStore {
	all(packet: string): Promise<QueuedFile[]>;
	put(file: QueuedFile): Promise<void>;
	delete(key: string): Promise<void>;
}

/** What is said of a file while it is on its way. */
export type Progress =
	| { readonly state: 'waiting' | 'sending'; readonly sent: number }
	| { readonly state: 'safe' }
	/** `kept`: it waits here for another try; otherwise the server will never take it. */
	| { readonly state: 'failed'; readonly problem: string; readonly kept: boolean };

export interface QueueOptions {
	readonly store: QueueStore;
	readonly endpoint: string;
	readonly headers?: Readonly<Record<string, string>>;
	/** Tells what became of a file. */
	readonly onProgress: (file: QueuedFile, progress: Progress) => void;
	/** Tells whether the line to the server holds. */
	readonly onLine?: (up: boolean) => void;
	/** Makes of a blob what the tus client of this environment sends. */
	readonly open?: (blob: Blob) => Promise<Blob> | Promise<Buffer>;
	/** Keeps two tabs from sending one file at once: resolves to false when another has it. */
	readonly alone?: (key: string, work: () => Promise<void>) => Promise<boolean>;
}

const AT_ONCE = 3;
const CHUNK = 8 * 1024 * 1024;
/** Pause before the next try when the line broke, in milliseconds: doubled up to the longest. */
const FIRST_PAUSE = 400;
const LONGEST_PAUSE = 15_000;

/**
 * Sends files by the tus protocol until the server has every one: over broken lines, a server that was
 * restarted and, with a store that lasts, over a closed page. Only an answer that says no ends a file's way.
 */
export class UploadQueue {
	readonly #options: QueueOptions;
	readonly #waiting: QueuedFile[] = [];
	readonly #known = new Set<string>();
	#running = 0;
	#pause = FIRST_PAUSE;
	#wake: (() => void)[] = [];
	#closed = false;

	constructor(options: QueueOptions) {
		this.#options = options;
	}

	/** Takes up what was left unsent the last time. */
	async resume(packet: string): Promise<void> {
		const left = await this.#options.store.all(packet);
		left.sort((a, b) => a.batch - b.batch || a.place - b.place);
		for (const file of left) this.#take(file);
		this.#pump();
	}

	/** Adds files; each is in the store before its sending begins. */
	async add(files: readonly QueuedFile[]): Promise<void> {
		for (const file of files) {
			await this.#options.store.put(file).catch(() => undefined);
			this.#take(file);
		}
		this.#pump();
	}

	/** The line may be back: does not wait for the pause to end. */
	wake(): void {
		this.#pause = FIRST_PAUSE;
		for (const wake of this.#wake.splice(0)) wake();
	}

	close(): void {
		this.#closed = true;
		this.wake();
	}

	#take(file: QueuedFile): void {
		if (this.#known.has(file.key)) return;
		this.#known.add(file.key);
		this.#options.onProgress(file, { state: 'waiting', sent: 0 });
		this.#waiting.push(file);
	}

	#pump(): void {
		while (!this.#closed && this.#running < AT_ONCE && this.#waiting.length > 0) {
			const file = this.#waiting.shift()!;
			this.#running++;
			const work = () => this.#send(file);
			const alone = this.#options.alone;
			void (alone ? alone(file.key, work) : work()).finally(() => {
				this.#running--;
				this.#pump();
			});
		}
	}

	/** Tries until the file is safe, refused, or the queue is closed. */
	async #send(file: QueuedFile): Promise<void> {
		const { store, onProgress, onLine } = this.#options;
		for (;;) {
			if (this.#closed) return;
			const refusal = await this.#try(file);
			if (refusal === 'line broke') {
				onLine?.(false);
				onProgress(file, { state: 'waiting', sent: 0 });
				await this.#rest();
				continue;
			}
			onLine?.(true);
			this.#pause = FIRST_PAUSE;
			if (refusal === null) {
				await store.delete(file.key).catch(() => undefined);
				onProgress(file, { state: 'safe' });
			} else {
				// What the server will never take need not be kept; everything else waits for the next visit.
				if (refusal.final) await store.delete(file.key).catch(() => undefined);
				onProgress(file, { state: 'failed', problem: refusal.problem, kept: !refusal.final });
			}
			return;
		}
	}

	async #try(file: QueuedFile): Promise<null | 'line broke' | Refusal> {
		const { open, endpoint, headers, store, onProgress } = this.#options;
		let body: Blob | Buffer;
		try {
			body = open ? await open(file.blob) : file.blob;
		} catch {
			return { problem: 'This file is not where it was any more. Bring it in again.', final: true };
		}
		return new Promise((done) => {
			const upload = new Upload(body, {
				endpoint,
				uploadUrl: file.url ?? null,
				chunkSize: CHUNK,
				retryDelays: null,
				headers: { ...headers },
				metadata: {
					packet: file.packet,
					name: file.name,
					key: file.key,
					batch: String(file.batch),
					place: String(file.place),
					...(file.after !== undefined && { after: file.after }),
					...(file.replaces !== undefined && { replaces: file.replaces })
				},
				storeFingerprintForResuming: false,
				onUploadUrlAvailable: () => {
					if (!upload.url || upload.url === file.url) return;
					file.url = upload.url;
					store.put(file).catch(() => undefined);
				},
				onProgress: (sent) => onProgress(file, { state: 'sending', sent }),
				onSuccess: () => done(null),
				onError: (error) => {
					const status = error instanceof DetailedError ? error.originalResponse?.getStatus() : undefined;
					const isBegun = error instanceof DetailedError && error.originalRequest?.getMethod() === 'PATCH';
					done(refusalOf(status, isBegun));
				}
			});
			upload.start();
		});
	}

	#rest(): Promise<void> {
		const pause = this.#pause * (0.75 + 0.5 * Math.random());
		this.#pause = Math.min(LONGEST_PAUSE, this.#pause * 2);
		return new Promise((done) => {
			const timer = setTimeout(done, pause);
			this.#wake.push(() => {
				clearTimeout(timer);
				done();
			});
		});
	}
}

interface Refusal {
	readonly problem: string;
	/** Whether the same file would be refused again. */
	readonly final: boolean;
}

/** What an answer means for a file; one that `isBegun` and is not there any more begins again with the next try. */
function refusalOf(status: number | undefined, isBegun: boolean): 'line broke' | Refusal {
	switch (status) {
		case 413:
			return { problem: 'This file is too large.', final: true };
		case 401:
			return { problem: 'You are signed out. The file is kept here; sign in and it goes on.', final: false };
		case 404:
		case 410:
			if (isBegun) return 'line broke';
			return { problem: 'This packet cannot be added to any more. The file is kept here.', final: false };
		case 403:
			return { problem: 'This page may not send files there. The file is kept here.', final: false };
		default:
			// No answer, too many requests, a lock that is still held, or a server in trouble: all of them pass.
			return 'line broke';
	}
}
