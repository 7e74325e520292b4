import type { Obstacle } from '$lib/core/camera/shotWatch';
import type { Quadrilateral } from '$lib/core/sheet/geometry';

export type CameraRequest =
	| {
			readonly kind: 'frame';
			readonly frame: ImageBitmap | VideoFrame;
			readonly longest: number;
			readonly at: number;
	  }
	/** A shot was taken of what the last frame showed. */
	| { readonly kind: 'taken' }
	| { readonly kind: 'encode'; readonly id: number; readonly bitmap: ImageBitmap };

/** What was seen in a frame. Corners are in pixels of the frame as it was looked at. */
export interface Seen {
	readonly width: number;
	readonly height: number;
	readonly corners: Quadrilateral | null;
	readonly confidence: number;
	readonly obstacle: Obstacle | null;
	readonly steady: number;
	readonly take: boolean;
	readonly milliseconds: number;
}

export type CameraAnswer =
	({ readonly kind: 'seen' } & Seen) | { readonly kind: 'encoded'; readonly id: number; readonly blob: Blob };

/** Longer side in pixels at which frames are looked at, however large the camera's are. */
const LOOKED_AT = 800;

/**
 * Looks at the frames of a video in a web worker. A frame that comes while another is looked at is let go, so
 * that what is shown is never late.
 */
export class LiveOutline {
	readonly #worker = new Worker(new URL('./camera.worker.ts', import.meta.url), { type: 'module' });
	readonly #encoding = new Map<number, (blob: Blob) => void>();
	#busy = false;
	#closed = false;
	#next = 0;

	constructor(
		readonly video: HTMLVideoElement,
		onSeen: (seen: Seen) => void
	) {
		this.#worker.addEventListener('message', ({ data }: MessageEvent<CameraAnswer>) => {
			if (data.kind === 'encoded') {
				this.#encoding.get(data.id)?.(data.blob);
				this.#encoding.delete(data.id);
				return;
			}
			this.#busy = false;
			if (!this.#closed) onSeen(data);
		});
		this.#watch();
	}

	/** The sheet that is seen now has been taken. */
	taken(): void {
		this.#worker.postMessage({ kind: 'taken' } satisfies CameraRequest);
	}

	/** A JPEG of a picture, made off the main thread. */
	encode(bitmap: ImageBitmap): Promise<Blob> {
		return new Promise((done) => {
			const id = this.#next++;
			this.#encoding.set(id, done);
			this.#worker.postMessage({ kind: 'encode', id, bitmap } satisfies CameraRequest, [bitmap]);
		});
	}

	close(): void {
		this.#closed = true;
		this.#worker.terminate();
	}

	#watch(): void {
		if (this.#closed) return;
		this.video.requestVideoFrameCallback(() => {
			if (!this.#busy) void this.#look();
			this.#watch();
		});
	}

	async #look(): Promise<void> {
		if (this.video.videoWidth === 0 || this.#closed) return;
		this.#busy = true;
		try {
			// A VideoFrame is handed on without being touched; its pixels are fetched and scaled in the worker.
			const frame =
				typeof VideoFrame === 'undefined' ? await createImageBitmap(this.video) : new VideoFrame(this.video);
			const request: CameraRequest = { kind: 'frame', frame, longest: LOOKED_AT, at: performance.now() };
			this.#worker.postMessage(request, [frame]);
		} catch {
			// The stream has just ended or been changed: the next frame will do.
			this.#busy = false;
		}
	}
}
