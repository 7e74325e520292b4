import type { Quadrilateral } from '$lib/core/sheet/geometry';
import type { PaperName } from '$lib/core/sheet/paperSize';
import type { Turn } from '$lib/core/sheet/turn';
import type { Tone } from '$lib/core/tone/tone';

/** What is to be shown. */
export interface PreviewWish {
	/** The picture for the screen. */
	readonly url: string;
	/** Width of the full picture, in whose pixels the corners are. */
	readonly pictureWidth: number;
	readonly corners: Quadrilateral;
	readonly turn: Turn;
	/** Null: flattened only, as the camera saw it. */
	readonly tone: Tone | null;
	/** Longer side of the result in pixels. */
	readonly longest: number;
}

export interface PreviewRequest extends PreviewWish {
	readonly id: number;
}

export type PreviewAnswer =
	| { readonly id: number; readonly image: ImageData; readonly paper: PaperName | null }
	| { readonly id: number; readonly problem: string };

export interface Preview {
	readonly image: ImageData;
	readonly paper: PaperName | null;
}

/**
 * Previews out of a web worker, the newest wish first: while one is being computed, only the last of those
 * that came meanwhile is kept.
 */
export class PagePreview {
	/** Made with the first wish: pages are also rendered on the server, where there are no workers. */
	#worker: Worker | null = null;
	#busy = false;
	#next: { wish: PreviewWish; done: (preview: Preview | null) => void } | null = null;
	#done: ((preview: Preview | null) => void) | null = null;
	#id = 0;

	/** The preview, or null when a newer wish took its place or the picture is not there. */
	show(wish: PreviewWish): Promise<Preview | null> {
		return new Promise((done) => {
			if (!this.#busy) return this.#start(wish, done);
			this.#next?.done(null);
			this.#next = { wish, done };
		});
	}

	close(): void {
		this.#worker?.terminate();
	}

	#open(): Worker {
		const worker = new Worker(new URL('./page.worker.ts', import.meta.url), { type: 'module' });
		worker.addEventListener('message', ({ data }: MessageEvent<PreviewAnswer>) => {
			this.#busy = false;
			this.#done?.('image' in data ? data : null);
			this.#done = null;
			if (this.#next) {
				const { wish, done } = this.#next;
				this.#next = null;
				this.#start(wish, done);
			}
		});
		return worker;
	}

	#start(wish: PreviewWish, done: (preview: Preview | null) => void): void {
		this.#busy = true;
		this.#done = done;
		const { url, pictureWidth, corners, turn, tone, longest } = wish;
		this.#worker ??= this.#open();
		this.#worker.postMessage({
			id: this.#id++,
			url: new URL(url, location.href).href,
			pictureWidth,
			corners: corners.map(([x, y]) => [x, y]),
			turn,
			tone: tone && { ...tone },
			longest
		});
	}
}
