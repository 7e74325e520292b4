import { byName } from '$lib/core/order/byName';
import { alone, newKey, unsentFiles } from './unsent';
import { UploadQueue, type QueuedFile } from './uploadQueue';

export interface UploadLine {
	readonly key: string;
	readonly name: string;
	readonly bytes: number;
	/** A picture to show before the server has one; null for what a browser cannot show. */
	readonly picture: string | null;
	sent: number;
	/** `elsewhere`: another tab of this browser is sending it. */
	state: 'waiting' | 'sending' | 'safe' | 'failed' | 'elsewhere';
	problem: string | null;
	/** Whether it is kept here for another try. */
	kept: boolean;
}

/** Where files go. */
export interface Placing {
	/** The page behind which they go; '' is the start, undefined the end. */
	readonly after?: string;
	/** What the (first) file's picture takes the place of: see QueuedFile. */
	readonly replaces?: string;
}

const LARGEST = 200_000_000;
const SHOWN = /^image\/(jpeg|png|webp|avif|gif)$/;

/** Files on their way to the server; the list of one packet, kept over a reload. */
export class UploadList {
	lines = $state<UploadLine[]>([]);
	/** Whether the line to the server holds, as far as uploads can tell. */
	lineUp = $state(true);
	readonly total = $derived(this.lines.reduce((s, l) => s + l.bytes, 0));
	readonly sent = $derived(this.lines.reduce((s, l) => s + l.sent, 0));
	readonly open = $derived(this.lines.filter((l) => l.state === 'waiting' || l.state === 'sending').length);
	/** Only here so far: on their way, or kept until they can go. */
	readonly unsent = $derived(this.lines.filter((l) => l.state !== 'safe' && l.kept));

	readonly #packetId: string;
	readonly #queue: UploadQueue;

	/**
	 * @param done called when a file is safe on the server
	 * @param headers sent with every request
	 */
	constructor(packetId: string, done: () => void, headers: Readonly<Record<string, string>> = {}) {
		this.#packetId = packetId;
		this.#queue = new UploadQueue({
			store: unsentFiles,
			endpoint: '/api/uploads',
			headers,
			onLine: (up) => (this.lineUp = up),
			alone: async (key, work) => {
				const mine = await alone(key, work);
				if (!mine) this.#line(key)!.state = 'elsewhere';
				return mine;
			},
			onProgress: (file, progress) => {
				const line = this.#line(file.key) ?? this.#addLine(file);
				line.state = progress.state;
				if (progress.state === 'failed') {
					line.problem = progress.problem;
					line.kept = progress.kept;
				} else line.sent = progress.state === 'safe' ? line.bytes : progress.sent;
				if (progress.state === 'safe') done();
			}
		});
	}

	/** Takes up what an earlier visit left unsent, and listens for the line to come back. */
	begin(): () => void {
		void this.#queue.resume(this.#packetId).catch(() => undefined);
		const wake = () => this.#queue.wake();
		addEventListener('online', wake);
		return () => {
			removeEventListener('online', wake);
			this.#queue.close();
			for (const { picture } of this.lines) if (picture) URL.revokeObjectURL(picture);
		};
	}

	/** Begins to send files, in the order of their names. Returns their keys. */
	add(files: Iterable<File>, { after, replaces }: Placing = {}): string[] {
		const batch = Date.now();
		const sorted = [...files].sort((a, b) => byName(a.name, b.name));
		const queued = sorted.map((file, place): QueuedFile => ({
			key: newKey(),
			packet: this.#packetId,
			name: file.name,
			blob: file,
			batch,
			place,
			...(after !== undefined && { after }),
			...(replaces !== undefined && place === 0 && { replaces })
		}));
		const good: QueuedFile[] = [];
		for (const file of queued) {
			const problem =
				file.blob.size === 0
					? 'This file is empty. Copy or export it again.'
					: file.blob.size > LARGEST
						? 'This file is larger than 200 MB. Split it, or make it smaller.'
						: null;
			const line = this.#addLine(file);
			if (problem) {
				line.state = 'failed';
				line.problem = problem;
				line.kept = false;
			} else good.push(file);
		}
		void this.#queue.add(good);
		return queued.map((file) => file.key);
	}

	/** Forgets the lines that are finished with. */
	clear(): void {
		this.lines = this.lines.filter((l) => l.state !== 'safe' && l.state !== 'failed');
	}

	#line(key: string): UploadLine | undefined {
		return this.lines.find((l) => l.key === key);
	}

	#addLine({ key, name, blob }: QueuedFile): UploadLine {
		const picture = SHOWN.test(blob.type) ? URL.createObjectURL(blob) : null;
		const [sent, state, problem, kept] = [0, 'waiting', null, true] as const;
		this.lines.push({ key, name, bytes: blob.size, picture, sent, state, problem, kept });
		// The proxy in the list, not the plain object: its changes are shown.
		return this.lines[this.lines.length - 1]!;
	}
}
