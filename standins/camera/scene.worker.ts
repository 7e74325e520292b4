/** One page laid before the stand-in camera. */
export interface Scene {
	/** Address of a photograph. */
	readonly picture: string;
	/** What is wrong with it; a scene that cannot be taken goes away by itself after a while. */
	readonly mishap?: 'blurred' | 'dark' | 'cut-off';
}

export type SceneRequest =
	| {
			readonly kind: 'begin';
			readonly canvas: OffscreenCanvas;
			/** Where frames are written to; null where the canvas itself is the stream. */
			readonly writable: WritableStream<VideoFrame> | null;
			readonly scenes: readonly Scene[];
	  }
	| { readonly kind: 'still' }
	| { readonly kind: 'taken' };

export type SceneAnswer =
	| { readonly kind: 'ready' }
	| { readonly kind: 'failed'; readonly problem: string }
	| { readonly kind: 'still'; readonly blob: Blob };

/** Milliseconds in which a page slides in and the hand comes to rest, and in which it is taken away. */
const ARRIVES = 900;
const LEAVES = 500;
/** A scene with a mishap is given up after this long. */
const GIVEN_UP = 3200;
const FRAME = 1000 / 24;
const STRIPE = 40;
const DESK = '#7d6248';

/** Each photograph in full, for stills, and at the live picture's size, so that drawing it is quick. */
let scenes: { full: ImageBitmap; small: ImageBitmap; mishap?: Scene['mishap'] }[] = [];
let canvas: OffscreenCanvas;
let writer: WritableStreamDefaultWriter<VideoFrame> | null = null;
let index = 0;
let arrivedAt = 0;
let leavingSince: number | null = null;

addEventListener('message', async ({ data: request }: MessageEvent<SceneRequest>) => {
	switch (request.kind) {
		case 'begin':
			canvas = request.canvas;
			try {
				scenes = await Promise.all(
					request.scenes.map(async ({ picture, mishap }) => {
						const blob = await (await fetch(picture)).blob();
						const full = await createImageBitmap(blob);
						const size = {
							resizeWidth: canvas.width,
							resizeHeight: (full.height * canvas.width) / full.width
						};
						const small = await createImageBitmap(full, { ...size, resizeQuality: 'high' });
						return { full, small, ...(mishap && { mishap }) };
					})
				);
			} catch {
				postMessage({
					kind: 'failed',
					problem: 'The demo pictures could not be fetched.'
				} satisfies SceneAnswer);
				return;
			}
			arrivedAt = performance.now();
			writer = request.writable?.getWriter() ?? null;
			show();
			postMessage({ kind: 'ready' } satisfies SceneAnswer);
			setInterval(show, FRAME);
			break;
		case 'still': {
			// As large as the photograph it is drawn from.
			const scale =
				(scenes[Math.min(index, scenes.length - 1)]?.full.height ?? canvas.height) / canvas.height;
			const still = new OffscreenCanvas(Math.round(canvas.width * scale), Math.round(canvas.height * scale));
			draw(still, performance.now());
			const blob = await still.convertToBlob({ type: 'image/jpeg', quality: 0.92 });
			postMessage({ kind: 'still', blob } satisfies SceneAnswer);
			break;
		}
		case 'taken':
			leavingSince ??= performance.now();
	}
});

function show(): void {
	draw(canvas, performance.now());
	void writer?.write(new VideoFrame(canvas, { timestamp: performance.now() * 1000 })).catch(() => undefined);
}

function draw(target: OffscreenCanvas, now: number): void {
	const context = target.getContext('2d')!;
	const { width, height } = target;
	context.fillStyle = DESK;
	context.fillRect(0, 0, width, height);
	const scene = scenes[index];
	if (!scene) return;
	const age = now - arrivedAt;
	if (scene.mishap && age > ARRIVES + GIVEN_UP) leavingSince ??= now;
	let away = Math.max(0, 1 - age / ARRIVES) ** 2;
	if (leavingSince !== null) {
		away = Math.min(1, (now - leavingSince) / LEAVES) ** 2;
		if (now - leavingSince >= LEAVES) {
			index++;
			arrivedAt = now;
			leavingSince = null;
		}
	}
	// A hand comes to rest, but never quite.
	const unrest = 0.35 + 8 * Math.exp(-age / 350);
	const sway = (frequency: number, phase: number) => Math.sin((now / 1000) * frequency + phase) * unrest;
	const unit = height / 1280;
	const blur = (scene.mishap === 'blurred' ? 3.2 : 0) + 6 * away;
	// A blurred picture is drawn small and then large again.
	const small = 1 / (1 + blur);
	const scratch =
		small < 0.9 ? new OffscreenCanvas(Math.ceil(width * small), Math.ceil(height * small)) : target;
	const pen = scratch.getContext('2d')!;
	pen.save();
	pen.scale(scratch.width / width, scratch.height / height);
	pen.fillStyle = DESK;
	pen.fillRect(0, 0, width, height);
	pen.translate(
		width / 2 + sway(5.1, 0) * unit + away * 1.2 * width,
		height / 2 + sway(4.3, 2) * unit + (scene.mishap === 'cut-off' ? 0.2 * height : 0)
	);
	pen.rotate(0.0009 * sway(3.7, 4));
	tilted(pen, target === canvas ? scene.small : scene.full, width, height, 0.02 + 0.0016 * sway(2.9, 1));
	pen.restore();
	if (scratch !== target) context.drawImage(scratch, 0, 0, width, height);
	const dark = scene.mishap === 'dark' ? 0.82 : 0;
	if (dark > 0) {
		context.fillStyle = `rgba(12, 8, 4, ${dark})`;
		context.fillRect(0, 0, width, height);
	}
}

/** Draws a picture so that its far end is smaller, in stripes. */
function tilted(
	context: OffscreenCanvasRenderingContext2D,
	image: ImageBitmap,
	width: number,
	height: number,
	tilt: number
): void {
	// As large as covers the view.
	const scale = Math.max(width / image.width, height / image.height) * 1.02;
	const stripe = (STRIPE * height) / 1280;
	const full = image.height * scale;
	for (let y = 0; y < full; y += stripe) {
		const k = scale * (1 + tilt * (y / full - 0.5));
		const w = image.width * k;
		context.drawImage(
			image,
			0,
			y / scale,
			image.width,
			stripe / scale + 1,
			-w / 2,
			y - full / 2,
			w,
			stripe + 1
		);
	}
}
