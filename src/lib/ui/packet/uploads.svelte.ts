import { byName } from '$lib/core/order/byName';
import { DetailedError, Upload } from 'tus-js-client';

export interface UploadLine {
	readonly id: number;
	readonly name: string;
	readonly bytes: number;
	sent: number;
	state: 'waiting' | 'sending' | 'safe' | 'failed';
	problem: string | null;
}

const AT_ONCE = 3;
const CHUNK = 8 * 1024 * 1024;
const LARGEST = 200_000_000;

/** Files on their way to the server, resumable; the list of one packet. */
export class UploadList {
	lines = $state<UploadLine[]>([]);
	readonly total = $derived(this.lines.reduce((s, l) => s + l.bytes, 0));
	readonly sent = $derived(this.lines.reduce((s, l) => s + l.sent, 0));
	readonly open = $derived(this.lines.filter((l) => l.state === 'waiting' || l.state === 'sending').length);

	readonly #packetId: string;
	readonly #done: () => void;
	readonly #queue: { line: UploadLine; file: File; batch: number; place: number }[] = [];
	#running = 0;
	#next = 0;

	constructor(packetId: string, done: () => void) {
		this.#packetId = packetId;
		this.#done = done;
	}

	/** Begins to send files, in the order of their names. */
	add(files: Iterable<File>): void {
		const batch = Date.now();
		const sorted = [...files].sort((a, b) => byName(a.name, b.name));
		sorted.forEach((file, place) => {
			const id = this.#next++;
			this.lines.push({ id, name: file.name, bytes: file.size, sent: 0, state: 'waiting', problem: null });
			// The proxy in the list, not the plain object: its changes are shown.
			const line = this.lines[this.lines.length - 1]!;
			if (file.size === 0) this.#fail(line, 'This file is empty. Copy or export it again.');
			else if (file.size > LARGEST)
				this.#fail(line, 'This file is larger than 200 MB. Split it, or make it smaller.');
			else this.#queue.push({ line, file, batch, place });
		});
		this.#pump();
	}

	/** Forgets the lines that are finished with. */
	clear(): void {
		this.lines = this.lines.filter((l) => l.state === 'waiting' || l.state === 'sending');
	}

	#pump(): void {
		while (this.#running < AT_ONCE && this.#queue.length > 0) {
			const { line, file, batch, place } = this.#queue.shift()!;
			this.#running++;
			line.state = 'sending';
			const finish = () => {
				this.#running--;
				this.#pump();
			};
			const upload = new Upload(file, {
				endpoint: '/api/uploads',
				chunkSize: CHUNK,
				retryDelays: [0, 500, 1000, 2000, 4000, 8000, 15_000, 30_000, 30_000],
				metadata: {
					packet: this.#packetId,
					name: file.name,
					batch: String(batch),
					place: String(place)
				},
				// The same file given again is a new source; resuming is for lost lines, not for repeats.
				storeFingerprintForResuming: false,
				onProgress: (sent) => (line.sent = sent),
				onSuccess: () => {
					line.sent = line.bytes;
					line.state = 'safe';
					this.#done();
					finish();
				},
				onError: (error) => {
					const status = error instanceof DetailedError ? error.originalResponse?.getStatus() : undefined;
					this.#fail(
						line,
						status === 413
							? 'This file is too large.'
							: status === 404
								? 'This packet is not yours to add to.'
								: 'The line broke and did not come back. Bring the file in again.'
					);
					finish();
				}
			});
			upload.start();
		}
	}

	#fail(line: UploadLine, problem: string): void {
		line.state = 'failed';
		line.problem = problem;
	}
}
