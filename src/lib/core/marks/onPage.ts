import { getStroke } from 'perfect-freehand';
import { offOutline, ontoOutline, type Bend } from '../sheet/bend';
import { homography, project } from '../sheet/homography';
import { wholePicture, type Point, type Quadrilateral } from '../sheet/geometry';
import { turnCorners, type Turn } from '../sheet/turn';
import { COLOURS, MARK_LIMITS, type Mark, type Stroke, type Strip, type Words } from './mark';

/** How a page was made of its picture. */
export interface PageShape {
	/** The corners it was flattened along, in pixels of the picture. */
	readonly corners: Quadrilateral;
	readonly turn: Turn;
	/** How its lines ran before they were made level. */
	readonly bend?: Bend | null;
	/** Of the page in pixels. */
	readonly width: number;
	readonly height: number;
	readonly dotsPerInch: number;
}

/** What is needed of a page's shape to know where places of its picture lie on it. */
export type PlacesOnPage = Omit<PageShape, 'dotsPerInch'>;

/** Takes a place from the picture to the page, or back; in pixels of each. */
export function toPage({ corners, turn, width, height, bend }: PlacesOnPage): (place: Point) => Point {
	const map = homography(turnCorners(corners, turn), wholePicture(1, 1));
	return (place) => {
		const onOutline = project(map, place);
		const [x, y] = bend ? offOutline(bend, onOutline) : onOutline;
		return [x * width, y * height];
	};
}
export function toPicture({ corners, turn, width, height, bend }: PlacesOnPage): (place: Point) => Point {
	const map = homography(wholePicture(1, 1), turnCorners(corners, turn));
	return ([x, y]) => {
		const onPage: Point = [x / width, y / height];
		return project(map, bend ? ontoOutline(bend, onPage) : onPage);
	};
}

/** How to draw what was added, on the page, in its pixels with y pointing down. */
export type Drawn = {
	readonly id: string;
	readonly rgb: readonly [number, number, number];
} & (
	| {
			readonly kind: 'area';
			readonly outline: readonly Point[];
			/** Where the pen went. */
			readonly path: readonly Point[];
			/** The writing is seen through it. */
			readonly seeThrough: boolean;
	  }
	| {
			readonly kind: 'words';
			readonly lines: readonly string[];
			/** Left end of the first line's foot. */
			readonly x: number;
			readonly y: number;
			/** Size of the letters and from line to line. */
			readonly size: number;
			readonly pitch: number;
	  }
);

/** Letters in a line of their height. */
export const LETTERS = 0.72;
/** Breadth of a letter beside its size, rather more than in the mean. */
export const BREADTH = 0.6;
/** Where letters stand, below the line's upper edge. */
const FOOT = 0.78;
/** How much a stroke narrows where it is fast or light. */
const THINNING = 0.45;

/** What was added to a page as areas and words on it, in the sequence in which it was added. */
export function drawnOn(shape: PageShape, marks: readonly (Stroke | Words)[]): Drawn[] {
	if (marks.length === 0) return [];
	const map = toPage(shape);
	return marks.map((mark) => drawn(mark, shape.dotsPerInch / 25.4, map));
}

function drawn(mark: Stroke | Words, perMillimetre: number, map: (place: Point) => Point): Drawn {
	const { id } = mark;
	const rgb = COLOURS[mark.colour];
	if (mark.kind === 'words') {
		const [x, y] = map(mark.at);
		const pitch = mark.size * perMillimetre;
		return {
			id,
			rgb,
			kind: 'words',
			lines: mark.text.split('\n'),
			x,
			y: y + FOOT * pitch,
			size: LETTERS * pitch,
			pitch
		};
	}
	const points = mark.points.map(([x, y, pressure]) => [...map([x, y]), pressure]);
	const isMarker = mark.kind === 'marker';
	const outline = getStroke(points, {
		size: mark.width * perMillimetre,
		thinning: isMarker ? 0 : THINNING,
		simulatePressure: false,
		smoothing: 0.5,
		streamline: 0.2,
		last: true
	}).map(([x, y]): Point => [x!, y!]);
	const path = points.map(([x, y]): Point => [x!, y!]);
	return { id, rgb, kind: 'area', outline, path, seeThrough: isMarker };
}

/** An area's outline as the path of an SVG. */
export function pathOf(outline: readonly Point[]): string {
	const at = ([x, y]: Point) => `${x.toFixed(1)} ${y.toFixed(1)}`;
	return outline.length > 0 ? `M${outline.map(at).join('L')}Z` : '';
}

/** Left, top, right and bottom of what is drawn, in pixels of the page; words by their usual breadth. */
export function boundsOf(one: Drawn): readonly [number, number, number, number] {
	if (one.kind === 'words') {
		const longest = Math.max(...one.lines.map((l) => l.length));
		return [
			one.x,
			one.y - one.size,
			one.x + BREADTH * one.size * longest,
			one.y + one.pitch * (one.lines.length - 1) + 0.3 * one.size
		];
	}
	const xs = one.outline.map(([x]) => x);
	const ys = one.outline.map(([, y]) => y);
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

/** A stroke with the points left out that lie on the line between their neighbours (Douglas and Peucker 1973). */
export function simplified<T extends readonly number[]>(points: readonly T[], tolerance: number): T[] {
	if (points.length < 3) return [...points];
	const [first, last] = [points[0]!, points.at(-1)!];
	const [dx, dy] = [last[0]! - first[0]!, last[1]! - first[1]!];
	const length = Math.hypot(dx, dy);
	let far = 0;
	let index = 0;
	for (let i = 1; i < points.length - 1; i++) {
		const [px, py] = [points[i]![0]! - first[0]!, points[i]![1]! - first[1]!];
		const away = length > 0 ? Math.abs(px * dy - py * dx) / length : Math.hypot(px, py);
		if (away > far) [far, index] = [away, i];
	}
	if (far <= tolerance) return [first, last];
	return [
		...simplified(points.slice(0, index + 1), tolerance).slice(0, -1),
		...simplified(points.slice(index), tolerance)
	];
}

/** A strip over a box of the page, in its pixels. */
export function stripOver(
	shape: PageShape,
	id: string,
	box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
): Strip {
	const back = toPicture(shape);
	const [right, bottom] = [box.x + box.width, box.y + box.height];
	const corners: readonly Point[] = [
		[box.x, box.y],
		[right, box.y],
		[right, bottom],
		[box.x, bottom]
	];
	return {
		id,
		kind: 'strip',
		corners: corners.map((c) => rounded(back(c))) as unknown as Quadrilateral
	};
}

/** A mark moved by so much, in pixels of the page. */
export function movedBy<M extends Mark>(mark: M, shape: PageShape, dx: number, dy: number): M {
	const [to, back] = [toPage(shape), toPicture(shape)];
	const moved = (p: Point): Point => {
		const [x, y] = to(p);
		return rounded(back([x + dx, y + dy]));
	};
	if (mark.kind === 'strip') {
		return { ...mark, corners: mark.corners.map(moved) as unknown as Quadrilateral };
	}
	if (mark.kind === 'words') return { ...mark, at: moved(mark.at) };
	return { ...mark, points: mark.points.map(([x, y, pressure]) => [...moved([x, y]), pressure] as const) };
}

/** Words and strips made larger or smaller, and strokes broader, by so much to the right and down, in pixels of the page. */
export function resizedBy<M extends Mark>(mark: M, shape: PageShape, dx: number, dy: number): M {
	const millimetres = (25.4 * (dx + dy)) / shape.dotsPerInch;
	if (mark.kind === 'words') return { ...mark, size: clamped(mark.size + millimetres, MARK_LIMITS.size) };
	if (mark.kind !== 'strip') {
		return { ...mark, width: clamped(mark.width + millimetres / 5, MARK_LIMITS.width[mark.kind]) };
	}
	const [to, back] = [toPage(shape), toPicture(shape)];
	const outline = mark.corners.map((corner) => to(corner));
	const [cx, cy] = [0, 1].map((k) => outline.reduce((sum, p) => sum + p[k as 0 | 1], 0) / 4) as [
		number,
		number
	];
	// Its right and lower side move; which corners these are hangs on how the page is turned.
	const grown = outline.map(([x, y]): Point => [x > cx ? x + dx : x, y > cy ? y + dy : y]);
	const isThere = grown.every(
		([x, y], i) => x > cx === outline[i]![0] > cx && y > cy === outline[i]![1] > cy
	);
	return isThere
		? { ...mark, corners: grown.map((p) => rounded(back(p))) as unknown as Quadrilateral }
		: mark;
}

const clamped = (value: number, [least, most]: readonly [number, number]) =>
	Math.round(100 * Math.min(most, Math.max(least, value))) / 100;

/** To a tenth of a pixel: finer than anybody draws. */
export function rounded([x, y]: Point): Point {
	return [Math.round(10 * x) / 10, Math.round(10 * y) / 10];
}
