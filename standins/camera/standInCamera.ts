import type { Camera } from '../../src/lib/ui/camera/camera';
import type { Scene, SceneAnswer, SceneRequest } from './scene.worker';

/** The live picture's size: somewhat more than 720p, held upright, in the proportions of the photographs. */
const WIDTH = 960;
const HEIGHT = 1280;

/**
 * A camera without a device: a worker draws demo pages as a hand would hold them over a desk, moving, tilting,
 * blurred, in shadow, into a canvas whose stream is the live picture.
 */
export async function openStandInCamera(scenes: readonly Scene[]): Promise<Camera> {
	const worker = new Worker(new URL('./scene.worker.ts', import.meta.url), { type: 'module' });
	const stills: ((blob: Blob) => void)[] = [];
	const ready = new Promise<void>((done, fail) => {
		worker.addEventListener('message', ({ data }: MessageEvent<SceneAnswer>) => {
			if (data.kind === 'ready') done();
			else if (data.kind === 'failed') fail(new Error(data.problem));
			else stills.shift()?.(data.blob);
		});
	});
	const send = (request: SceneRequest, transfer: Transferable[] = []) =>
		worker.postMessage(request, transfer);
	const { stream, begin, transfer } = openStream();
	send({ kind: 'begin', ...begin, scenes }, transfer);
	await ready;
	return {
		stream,
		name: 'Stand-in camera',
		still: () =>
			new Promise((done) => {
				stills.push(done);
				send({ kind: 'still' });
			}),
		taken: () => send({ kind: 'taken' }),
		close: () => {
			worker.terminate();
			stream.getTracks().forEach((t) => t.stop());
		}
	};
}

/** Chromium's way to make a track of frames; TypeScript's library does not know it. */
declare const MediaStreamTrackGenerator:
	| undefined
	| (new (options: {
			kind: 'video';
	  }) => MediaStreamTrack & { readonly writable: WritableStream<VideoFrame> });

/** A stream that a worker feeds: frame by frame where the browser lets it, else through a canvas. */
function openStream() {
	if (typeof MediaStreamTrackGenerator !== 'undefined') {
		const track = new MediaStreamTrackGenerator({ kind: 'video' });
		const canvas = new OffscreenCanvas(WIDTH, HEIGHT);
		const { writable } = track;
		return { stream: new MediaStream([track]), begin: { canvas, writable }, transfer: [canvas, writable] };
	}
	const element = document.createElement('canvas');
	element.width = WIDTH;
	element.height = HEIGHT;
	const stream = element.captureStream(24);
	const canvas = element.transferControlToOffscreen();
	return { stream, begin: { canvas, writable: null }, transfer: [canvas] };
}
