import type { Quadrilateral } from '../sheet/geometry';
import type { Side } from '../sheet/sideLines';
import { signatureLikeness, type FrameFacts } from './lookAtFrame';

/** What keeps a shot from being taken. */
export type Obstacle =
	| { readonly kind: 'no-sheet' | 'far' | 'dark' | 'moving' | 'blurred' | 'taken-already' }
	| { readonly kind: 'cut-off'; readonly sides: readonly Side[] };

/** What is remembered from one frame to the next. */
export interface WatchState {
	/** Frames of the last moments, oldest first. */
	readonly recent: readonly { readonly at: number; readonly corners: Quadrilateral }[];
	/** Signature of the page taken last; null when nothing stands in the way of any page. */
	readonly taken: Float32Array | null;
}

export interface Watched {
	readonly state: WatchState;
	/** The first thing in the way; null when there is nothing but the waiting. */
	readonly obstacle: Obstacle | null;
	/** How much of the waiting is over, 0 to 1. */
	readonly steady: number;
	readonly take: boolean;
}

export const WATCH_BEGIN: WatchState = { recent: [], taken: null };

/** A sheet must lie still this long, in milliseconds. */
const STEADY = 700;
/** Corners may wander this far meanwhile, as a fraction of the frame's diagonal: a hand always trembles. */
const TREMBLE = 0.012;
/** Sheets smaller than this fraction of the frame would be photographed with too few pixels. */
const LEAST_AREA = 0.22;
/** Paper darker than this is noise and motion blur, whatever the camera does. */
const LEAST_LIGHT = 70;
/**
 * Steps of writing less steep than this are blurred. Generated pages in frames of 600 x 800 measure 0.9 and more
 * when sharp, 0.37 and less from a blur of 1.5 pixels on.
 */
const LEAST_SHARPNESS = 0.4;
/** Signatures at least this alike are the same page. */
const SAME = 0.6;

/**
 * Judges one more frame. The shot is to be taken when the sheet is whole, near, lit, sharp, not the one
 * taken last, and has lain still for a moment.
 *
 * @param at when the frame was seen, in milliseconds
 */
export function watchFrame(state: WatchState, frame: FrameFacts, at: number): Watched {
	const { outline, width, height } = frame;
	if (outline.kind !== 'sheet') {
		// Nothing there: whatever comes next is another page, or the same one laid down anew on purpose.
		return { state: { recent: [], taken: null }, obstacle: { kind: 'no-sheet' }, steady: 0, take: false };
	}
	const diagonal = Math.hypot(width, height);
	const last = state.recent.at(-1);
	const jumped = last !== undefined && wander(last.corners, outline.corners) > 4 * TREMBLE * diagonal;
	const recent = [...(jumped ? [] : state.recent), { at, corners: outline.corners }].filter(
		(r) => r.at >= at - 2 * STEADY
	);
	let still = recent.length - 1;
	while (still > 0 && wander(recent[still - 1]!.corners, outline.corners) <= TREMBLE * diagonal) still--;
	const since = at - recent[still]!.at;
	const next: WatchState = { recent, taken: state.taken };

	const obstacle = obstacleIn(frame, next);
	if (obstacle) return { state: next, obstacle, steady: 0, take: false };
	if (since === 0 && recent.length > 1) {
		return { state: next, obstacle: { kind: 'moving' }, steady: 0, take: false };
	}
	return { state: next, obstacle: null, steady: Math.min(1, since / STEADY), take: since >= STEADY };
}

/** After a shot: the page in this frame is not taken a second time until it has gone. */
export function afterShot(frame: FrameFacts): WatchState {
	return { recent: [], taken: frame.signature };
}

function obstacleIn(frame: FrameFacts, state: WatchState): Obstacle | null {
	const { outline, width, height, light, sharpness, signature } = frame;
	if (outline.cutOff.length > 0) return { kind: 'cut-off', sides: outline.cutOff };
	if (area(outline.corners) < LEAST_AREA * width * height) return { kind: 'far' };
	if (light < LEAST_LIGHT) return { kind: 'dark' };
	if (state.taken && signatureLikeness(state.taken, signature) >= SAME) return { kind: 'taken-already' };
	if (sharpness < LEAST_SHARPNESS) return { kind: 'blurred' };
	return null;
}

function wander(a: Quadrilateral, b: Quadrilateral): number {
	return Math.max(...a.map((p, i) => Math.hypot(p[0] - b[i]![0], p[1] - b[i]![1])));
}

function area([a, b, c, d]: Quadrilateral): number {
	return Math.abs((c[0] - a[0]) * (d[1] - b[1]) - (d[0] - b[0]) * (c[1] - a[1])) / 2;
}

const SIDE_WORDS: Readonly<Record<Side, string>> = {
	top: 'upper',
	right: 'right',
	bottom: 'lower',
	left: 'left'
};

/** What to do about it, in words for the person who holds the camera. */
export function describeObstacle(obstacle: Obstacle): string {
	switch (obstacle.kind) {
		case 'no-sheet':
			return 'No sheet to be seen yet';
		case 'cut-off': {
			const names = obstacle.sides.map((s) => SIDE_WORDS[s]);
			return names.length === 1
				? `The sheet’s ${names[0]} edge is outside`
				: `The sheet’s ${names.slice(0, -1).join(', ')} and ${names.at(-1)} edges are outside`;
		}
		case 'far':
			return 'Go closer';
		case 'dark':
			return 'Too dark: more light, please';
		case 'moving':
			return 'Hold still';
		case 'blurred':
			return 'Blurred: hold still, or let it focus';
		case 'taken-already':
			return 'Taken. Lay down the next page';
	}
}
