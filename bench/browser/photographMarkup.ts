import { pathToFileURL } from 'node:url';
import type { Random } from '../../demo/generator/random';
import type { Point, Quadrilateral } from '../../src/lib/core/sheet/geometry';
import { homography } from '../../src/lib/core/sheet/homography';
import type { Turn } from '../../src/lib/core/sheet/turn';
import { SHEET } from './sheetMarkup';

/** A photograph of a sheet on a desk, as a document for a browser. */
export interface PhotographMarkup {
	readonly markup: string;
	readonly size: readonly [width: number, height: number];
	/** Where the sheet's own corners lie, from its top left one on, in pixels. */
	readonly corners: Quadrilateral;
	/** How it must be turned, clockwise, to be upright. */
	readonly turn: Turn;
}

/** What somebody photographs with, and where. */
export interface Camera {
	/** Pixels of a picture's longer side. */
	readonly high: number;
	/** Of its JPEG files. */
	readonly quality: number;
	readonly grain: number;
	/** What the sheets lie on, as a style. */
	readonly desk: string;
	/** Colour of the light. */
	readonly light: string;
}

/** @param desks paths of pictures that sheets may lie on; none: one is drawn */
export function someCamera(random: Random, desks: readonly string[]): Camera {
	const desk = desks.length > 0 ? pathToFileURL(random.pick(desks)).href : null;
	return {
		high: random.pick(HEIGHTS),
		quality: random.pick([70, 82, 90]),
		grain: random.between(0.02, 0.12),
		desk: deskStyle(random, desk),
		light: `rgb(255 ${random.whole(240, 255)} ${random.whole(210, 255)})`
	};
}

/** A phone's pictures are so many times longer than broad. */
const LONG = 4 / 3;
const HEIGHTS = [1600, 2000, 2600, 3200];

/** @param sheet address of its picture */
export function photographMarkup(
	random: Random,
	{ high, ...camera }: Camera,
	sheet: string
): PhotographMarkup {
	const turn = random.pick([0, 0, 0, 90, 180, 270] as const);
	const size: [number, number] = [Math.round(high / LONG), high];
	if (turn === 90 || turn === 270) size.reverse();
	const upright = cornersOnDesk(random, turn === 90 || turn === 270 ? [size[1], size[0]] : size);
	const corners = lying(upright, size, turn);
	const [width, height] = size;
	const blurred = (random.between(0.2, 1.1) * high) / 2600;
	const soft = random.between(4, 14);
	const markup = `<!doctype html><style>
		* { position: absolute; inset: 0; margin: 0 }
		html, body { width: ${width}px; height: ${height}px; overflow: hidden }
		#desk { ${camera.desk} }
		#sheet { transform-origin: 0 0; transform: ${matrixTo(corners)}; width: ${SHEET[0]}px; height: ${SHEET[1]}px }
		#lying { filter: drop-shadow(${random.between(-6, 6)}px ${random.between(-6, 6)}px ${soft}px rgb(0 0 0 / 0.6)) }
		.light { mix-blend-mode: multiply }
	</style><div style="filter: blur(${blurred}px)"><div id="desk"></div>
	<div id="lying"><img id="sheet" src="${sheet}"></div>
	${lights(random, camera.light)}</div>
	<svg width="${width}" height="${height}" style="opacity: ${camera.grain}; mix-blend-mode: overlay">
		<filter id="grain"><feTurbulence type="fractalNoise" baseFrequency="0.8" seed="${random.whole(1, 999)}"/></filter>
		<rect width="100%" height="100%" filter="url(#grain)"/></svg>`;
	return { markup, size, corners, turn };
}

/** The corners of an upright sheet in a picture, from the top left one on, seen askew. */
function cornersOnDesk(random: Random, [width, height]: readonly [number, number]): Quadrilateral {
	const margin = random.between(0.03, 0.1);
	const scale = Math.min((width * (1 - 2 * margin)) / SHEET[0], (height * (1 - 2 * margin)) / SHEET[1]);
	const angle = (random.between(-5, 5) * Math.PI) / 180;
	const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
	const corner = (sx: number, sy: number): Point => {
		const x = (sx * SHEET[0] * scale) / 2 + random.between(-0.03, 0.03) * width;
		const y = (sy * SHEET[1] * scale) / 2 + random.between(-0.03, 0.03) * height;
		return [width / 2 + x * cos - y * sin, height / 2 + x * sin + y * cos];
	};
	return [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)];
}

/** Where an upright picture's points come to lie when it must be turned clockwise by `turn` to be upright again. */
function lying(
	corners: Quadrilateral,
	[width, height]: readonly [number, number],
	turn: Turn
): Quadrilateral {
	return corners.map(([x, y]): Point => {
		if (turn === 90) return [y, height - x];
		if (turn === 180) return [width - x, height - y];
		return turn === 270 ? [width - y, x] : [x, y];
	}) as unknown as Quadrilateral;
}

function matrixTo(corners: Quadrilateral): string {
	const [w, h] = SHEET;
	const from: Quadrilateral = [
		[0, 0],
		[w, 0],
		[w, h],
		[0, h]
	];
	const [a, b, c, d, e, f, g, k] = homography(from, corners);
	return `matrix3d(${[a, d, 0, g, b, e, 0, k, 0, 0, 1, 0, c, f, 0, 1].join()})`;
}

const DESKS = ['#6b4a2f', '#c9b79a', '#2e3136', '#e8e6e0', '#8d9ba3', '#4a5b45'];

function deskStyle(random: Random, desk: string | null): string {
	if (desk !== null) {
		const [x, y] = [random.whole(0, 100), random.whole(0, 100)];
		return `background: #777 url(${desk}) ${x}% ${y}% / cover`;
	}
	const grain = `repeating-linear-gradient(${random.whole(0, 180)}deg, rgb(0 0 0 / 0.12) 0 2px, transparent 2px ${random.whole(7, 40)}px)`;
	return `background: ${random.chance(0.6) ? `${grain},` : ''} ${random.pick(DESKS)}`;
}

/** Light that falls off to one side, and in a third of the pictures somebody's shadow. */
function lights(random: Random, colour: string): string {
	const grey = (light: number) =>
		`rgb(${Array(3)
			.fill(Math.round(255 * light))
			.join(' ')})`;
	const falling = `linear-gradient(${random.whole(0, 359)}deg, ${grey(random.between(0.5, 0.85))}, ${grey(random.between(0.8, 1))}, #fff)`;
	const from = random.whole(30, 70);
	const shadow = `linear-gradient(${random.whole(0, 359)}deg, #a8a8a8 ${from - random.whole(2, 12)}%, #fff ${from}%)`;
	return [falling, colour, ...(random.chance(0.33) ? [shadow] : [])]
		.map((light) => `<div class="light" style="background: ${light}"></div>`)
		.join('');
}
