import type { Quadrilateral } from '$lib/core/sheet/geometry';
import type { PaperName } from '$lib/core/sheet/paperSize';
import type { Turn } from '$lib/core/sheet/turn';
import type { ToneMeasures } from '$lib/core/tone/suggestTone';
import type { Tone } from '$lib/core/tone/tone';

/** What is to be shown. */
export interface PreviewWish {
	/** The picture for the screen. */
	readonly url: string;
	/** Width of the full picture, in whose pixels the corners are. */
	readonly pictureWidth: number;
	readonly corners: Quadrilateral;
	readonly turn: Turn;
	/** Lines that surely bend are made level. */
	readonly level: boolean;
	/** Null: flattened only, as the camera saw it. */
	readonly tone: Tone | null;
	/** Longer side of the result in pixels. */
	readonly longest: number;
}

export interface PreviewRequest extends PreviewWish {
	readonly kind: 'preview';
	readonly id: number;
}

/** Sides laid onto the edges near them. */
export interface SnapWish {
	readonly url: string;
	readonly pictureWidth: number;
	readonly corners: Quadrilateral;
	/** Which of top, right, bottom, left stay where they are. */
	readonly fixed: readonly boolean[];
}

export interface SnapRequest extends SnapWish {
	readonly kind: 'snap';
	readonly id: number;
}

/** How a flattened page would come out in each tone. */
export interface TonesWish {
	/** The page as photographed, flattened, at full size. */
	readonly url: string;
	/** The picture that it was flattened from, in pixels, and its corners there, beginning with its upper left. */
	readonly picture: { readonly width: number; readonly height: number };
	readonly corners: Quadrilateral;
	readonly dotsPerInch: number;
	/** Its legibility in greys, 0 to 1. */
	readonly score: number;
}

export interface TonesRequest extends TonesWish {
	readonly kind: 'tones';
	readonly id: number;
}

export type PreviewAnswer =
	| { readonly id: number; readonly measures: ToneMeasures }
	| { readonly id: number; readonly corners: Quadrilateral }
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
	readonly #measuring = new Map<number, (measures: ToneMeasures | null) => void>();
	readonly #snaps = new Map<number, (corners: Quadrilateral | null) => void>();

	/** The preview, or null when a newer wish took its place or the picture is not there. */
	show(wish: PreviewWish): Promise<Preview | null> {
		return new Promise((done) => {
			if (!this.#busy) return this.#start(wish, done);
			this.#next?.done(null);
			this.#next = { wish, done };
		});
	}

	/** The same corners, with the sides that are not fixed on the edges that lie close to them. */
	snap(wish: SnapWish): Promise<Quadrilateral> {
		return new Promise((done) => {
			const id = this.#id++;
			this.#snaps.set(id, (corners) => done(corners ?? wish.corners));
			this.#worker ??= this.#open();
			const { pictureWidth, fixed } = wish;
			this.#worker.postMessage({ ...plain(wish), pictureWidth, fixed: [...fixed], kind: 'snap', id });
		});
	}

	/** How much of the writing comes through in each tone; null when the picture is not there. */
	tones(wish: TonesWish): Promise<ToneMeasures | null> {
		return new Promise((done) => {
			const id = this.#id++;
			this.#measuring.set(id, done);
			this.#worker ??= this.#open();
			const { width, height } = wish.picture;
			this.#worker.postMessage({ ...wish, ...plain(wish), picture: { width, height }, kind: 'tones', id });
		});
	}

	close(): void {
		this.#worker?.terminate();
	}

	#open(): Worker {
		const worker = new Worker(new URL('./page.worker.ts', import.meta.url), { type: 'module' });
		worker.addEventListener('message', ({ data }: MessageEvent<PreviewAnswer>) => {
			const snap = this.#snaps.get(data.id);
			if (snap) {
				this.#snaps.delete(data.id);
				return snap('corners' in data ? data.corners : null);
			}
			const measuring = this.#measuring.get(data.id);
			if (measuring) {
				this.#measuring.delete(data.id);
				return measuring('measures' in data ? data.measures : null);
			}
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
		const { turn, level, tone, longest } = wish;
		this.#worker ??= this.#open();
		const id = this.#id++;
		this.#worker.postMessage({
			...plain(wish),
			pictureWidth: wish.pictureWidth,
			turn,
			level,
			tone: tone && { ...tone },
			longest,
			kind: 'preview',
			id
		});
	}
}

/** What passes to a worker must be free of the interface's own wrappers. */
function plain({ url, corners }: Pick<PreviewWish, 'url' | 'corners'>) {
	return {
		url: new URL(url, location.href).href,
		corners: corners.map(([x, y]) => [x, y] as const)
	};
}
