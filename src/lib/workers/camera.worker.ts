import { lookAtFrame, type FrameFacts } from '$lib/core/camera/lookAtFrame';
import { afterShot, WATCH_BEGIN, watchFrame, type WatchState } from '$lib/core/camera/shotWatch';
import type { CameraAnswer, CameraRequest } from './liveOutline';

// Looks at the frames of a live camera with the same core that prepares the pages.

let state: WatchState = WATCH_BEGIN;
let last: FrameFacts | null = null;
let canvas: OffscreenCanvas | null = null;

addEventListener('message', async ({ data: request }: MessageEvent<CameraRequest>) => {
	switch (request.kind) {
		case 'frame': {
			const started = performance.now();
			const { frame, longest } = request;
			const [fullWidth, fullHeight] =
				'displayWidth' in frame ? [frame.displayWidth, frame.displayHeight] : [frame.width, frame.height];
			const scale = Math.min(1, longest / Math.max(fullWidth, fullHeight));
			const width = Math.round(fullWidth * scale);
			const height = Math.round(fullHeight * scale);
			if (canvas?.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
			const context = canvas.getContext('2d', { willReadFrequently: true })!;
			context.drawImage(frame, 0, 0, width, height);
			frame.close();
			const { data } = context.getImageData(0, 0, width, height);
			last = lookAtFrame({ data, width, height, channels: 4 });
			const watched = watchFrame(state, last, request.at);
			state = watched.state;
			const { kind, corners, confidence } = last.outline;
			postMessage({
				kind: 'seen',
				width,
				height,
				corners: kind === 'sheet' ? corners : null,
				confidence,
				obstacle: watched.obstacle,
				steady: watched.steady,
				take: watched.take,
				milliseconds: performance.now() - started
			} satisfies CameraAnswer);
			break;
		}
		case 'taken':
			if (last) state = afterShot(last);
			break;
		case 'encode': {
			const { bitmap, id } = request;
			const still = new OffscreenCanvas(bitmap.width, bitmap.height);
			still.getContext('2d')!.drawImage(bitmap, 0, 0);
			bitmap.close();
			const blob = await still.convertToBlob({ type: 'image/jpeg', quality: 0.93 });
			postMessage({ kind: 'encoded', id, blob } satisfies CameraAnswer);
		}
	}
});
