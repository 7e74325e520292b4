/** A camera that is open: a live picture, and stills of it in full resolution. */
export interface Camera {
	readonly stream: MediaStream;
	readonly name: string;
	/** A still, as the camera makes it; null where only frames of the live picture are to be had. */
	still(): Promise<Blob | null>;
	/** Switches the light; undefined where there is none. */
	readonly torch?: (on: boolean) => Promise<void>;
	/** Told after each shot: a stand-in then lays down its next page. */
	readonly taken?: () => void;
	close(): void;
}

export interface CameraChoice {
	readonly id: string;
	readonly label: string;
}

/** Why no camera can be opened, and what to do. */
export class CameraError extends Error {
	constructor(
		message: string,
		readonly reason: 'refused' | 'missing' | 'busy' | 'insecure'
	) {
		super(message);
		this.name = 'CameraError';
	}
}

export function hasCameraAccess(): boolean {
	return typeof navigator !== 'undefined' && navigator.mediaDevices?.getUserMedia !== undefined;
}

/** ImageCapture is not in TypeScript's library; where a browser has it, it gives the sensor's own picture. */
interface StillTaker {
	takePhoto(): Promise<Blob>;
}
declare const ImageCapture: undefined | (new (track: MediaStreamTrack) => StillTaker);

/** Opens a camera of this device: the one asked for, or the one that looks away from the person. */
export async function openDeviceCamera(id: string | null): Promise<Camera> {
	if (!hasCameraAccess()) {
		throw new CameraError(
			'This page may not use a camera here: the address is not a secure one.',
			'insecure'
		);
	}
	const takesStills = typeof ImageCapture !== 'undefined';
	// Without stills of its own, the live picture has to be as large as the camera can make it.
	const [width, height] = takesStills ? [1920, 1080] : [4032, 3024];
	let stream: MediaStream;
	try {
		stream = await navigator.mediaDevices.getUserMedia({
			audio: false,
			video: {
				...(id ? { deviceId: { exact: id } } : { facingMode: { ideal: 'environment' } }),
				width: { ideal: width },
				height: { ideal: height }
			}
		});
	} catch (error) {
		throw whyNot(error);
	}
	const track = stream.getVideoTracks()[0]!;
	const taker = typeof ImageCapture === 'undefined' ? null : new ImageCapture(track);
	const capabilities = (track.getCapabilities?.() ?? {}) as MediaTrackCapabilities & { torch?: boolean };
	return {
		stream,
		name: track.label || 'Camera',
		// Some cameras say that they take stills and then do not.
		still: () => taker?.takePhoto().catch(() => null) ?? Promise.resolve(null),
		...(capabilities.torch && {
			torch: (on: boolean) => track.applyConstraints({ advanced: [{ torch: on } as MediaTrackConstraintSet] })
		}),
		close: () => stream.getTracks().forEach((t) => t.stop())
	};
}

/** The cameras of this device; names are told only after one has been allowed. */
export async function cameraChoices(): Promise<CameraChoice[]> {
	if (!hasCameraAccess()) return [];
	const devices = await navigator.mediaDevices.enumerateDevices().catch(() => []);
	return devices
		.filter((d) => d.kind === 'videoinput' && d.deviceId !== '')
		.map((d, i) => ({ id: d.deviceId, label: d.label || `Camera ${i + 1}` }));
}

function whyNot(error: unknown): CameraError {
	switch ((error as DOMException).name) {
		case 'NotAllowedError':
		case 'SecurityError':
			return new CameraError(
				'The browser was told not to let this page use the camera. Allow it in the address bar and try again.',
				'refused'
			);
		case 'NotFoundError':
		case 'OverconstrainedError':
			return new CameraError('No camera was found on this device.', 'missing');
		default:
			return new CameraError('The camera is in use elsewhere, or does not answer.', 'busy');
	}
}
