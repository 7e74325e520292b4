import { flattenLevel } from '$lib/core/page/levelLines';
import { pageSize } from '$lib/core/page/pageSize';
import { turnCorners } from '$lib/core/sheet/turn';
import type { Picture } from '$lib/core/raster/picture';
import { greyOf, type FinishedPage } from '$lib/core/tone/finish';
import { DEFAULT_TONE, type Tone } from '$lib/core/tone/tone';
import { finishedPage } from '$lib/core/page/finishedPage';
import { evenFor, lightOn, type PageLight } from '$lib/core/page/pageLight';
import { refineSides } from '$lib/core/sheet/refineSides';
import type { Quadrilateral } from '$lib/core/sheet/geometry';
import { halve } from '$lib/core/raster/halve';
import { measureLetters } from '$lib/core/legibility/measureLetters';
import { paperNoise } from '$lib/core/legibility/paperNoise';
import { writingMask } from '$lib/core/legibility/writingMask';
import { evenLight } from '$lib/core/tone/evenLight';
import { measureTones } from '$lib/core/tone/suggestTone';
import type { PreviewAnswer, PreviewRequest, SnapRequest, TonesRequest } from './pagePreview';

// The page as it will be, from the same core as the server's, on the smaller picture of the screen.

const pictures = new Map<string, Promise<Picture>>();
const MOST_PICTURES = 4;

async function load(url: string): Promise<Picture> {
	const response = await fetch(url);
	if (!response.ok) throw new Error('The picture could not be fetched.');
	const bitmap = await createImageBitmap(await response.blob());
	const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
	const context = canvas.getContext('2d', { willReadFrequently: true })!;
	context.drawImage(bitmap, 0, 0);
	const { data, width, height } = context.getImageData(0, 0, bitmap.width, bitmap.height);
	return { data, width, height, channels: 4 };
}

function picture(url: string): Promise<Picture> {
	let found = pictures.get(url);
	if (!found) {
		found = load(url);
		found.catch(() => pictures.delete(url));
		pictures.set(url, found);
		if (pictures.size > MOST_PICTURES) pictures.delete(pictures.keys().next().value!);
	}
	return found;
}

type Request = PreviewRequest | SnapRequest | TonesRequest;
const answers = { preview: answer, snap: snapped, tones: measured };

addEventListener('message', async ({ data: request }: MessageEvent<Request>) => {
	try {
		postMessage(await answers[request.kind](request as never));
	} catch (error) {
		postMessage({ id: request.id, problem: (error as Error).message } satisfies PreviewAnswer);
	}
});

/** How near an edge has to be for a side to snap to it, as a fraction of the picture's longer side. */
const SNAP = 0.008;

async function snapped({ id, url, pictureWidth, corners, fixed }: SnapRequest): Promise<PreviewAnswer> {
	const source = await picture(url);
	const scale = source.width / pictureWidth;
	const reach = SNAP * Math.max(source.width, source.height);
	const scaled = (by: number, all: Quadrilateral) =>
		all.map(([x, y]) => [x * by, y * by] as const) as unknown as Quadrilateral;
	return { id, corners: scaled(1 / scale, refineSides(source, scaled(scale, corners), reach, 1, fixed)) };
}

async function measured(request: TonesRequest): Promise<PreviewAnswer> {
	const { id, dotsPerInch, score } = request;
	const flat = await picture(request.url);
	const { light, fills } = lightOn(flat, request.picture, request.corners);
	const even = evenLight(flat, light);
	const noise = paperNoise(flat);
	const writing = writingMask(halve(even.grey), noise / 2);
	const tone = { ...DEFAULT_TONE, name: 'black-and-white' } as const;
	const binary = greyOf(finishedPage(flat, tone, dotsPerInch, even, noise));
	const inInk = measureLetters(
		{
			grey: even.grey,
			writing,
			sourceDotsPerInch: dotsPerInch,
			dotsPerInch,
			flat,
			light: (fills?.light ?? light).green,
			noise,
			cutOff: false,
			binary
		},
		fills
	);
	const left = inInk.inGreys ? inInk.score / inInk.inGreys : 1;
	const reads = { greys: score, ink: score * left };
	return { id, measures: measureTones(even, binary, writing, reads, fills) };
}

async function answer(request: PreviewRequest): Promise<PreviewAnswer> {
	const source = await picture(request.url);
	const scale = source.width / request.pictureWidth;
	const corners = request.corners.map(([x, y]) => [x * scale, y * scale] as const) as never;
	const whole = pageSize(source, corners, request.turn);
	const shrink = Math.min(1, request.longest / Math.max(whole.width, whole.height));
	const width = Math.max(8, Math.round(whole.width * shrink));
	const height = Math.max(8, Math.round(whole.height * shrink));
	const upright = turnCorners(corners, request.turn);
	const { flat } = flattenLevel(source, upright, { width, height }, request.level);
	const done = request.tone
		? inTone(flat, request.tone, whole.dotsPerInch * shrink, lightOn(flat, source, upright))
		: null;
	const rgba = new Uint8ClampedArray(width * height * 4).fill(255);
	if (done && done.holds !== 'colours') {
		for (let i = 0, p = 0; p < rgba.length; i++, p += 4) {
			rgba[p] = rgba[p + 1] = rgba[p + 2] = done.plane.data[i]!;
		}
	} else {
		const rgb = done ? done.picture.data : flat.data;
		for (let i = 0, p = 0; p < rgba.length; i += 3, p += 4) {
			rgba[p] = rgb[i]!;
			rgba[p + 1] = rgb[i + 1]!;
			rgba[p + 2] = rgb[i + 2]!;
		}
	}
	return { id: request.id, image: new ImageData(rgba, width, height), paper: whole.paper };
}

function inTone(flat: Picture, tone: Tone, dotsPerInch: number, lit: PageLight): FinishedPage {
	return finishedPage(flat, tone, dotsPerInch, evenFor(flat, tone, lit), paperNoise(flat));
}
