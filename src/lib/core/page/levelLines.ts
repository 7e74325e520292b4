import { paperNoise } from '../legibility/paperNoise';
import type { Picture, Plane } from '../raster/picture';
import { acrossEdge } from '../sheet/acrossEdge';
import { leaning, shouldStraighten } from '../sheet/askew';
import { reachOfSheet, sagOf, type Bend } from '../sheet/bend';
import { findBend, LEAST_SAG } from '../sheet/findBend';
import { flatten } from '../sheet/flatten';
import { wholePicture, type Point, type Quadrilateral } from '../sheet/geometry';
import { homography, project } from '../sheet/homography';
import { evenGrey } from '../tone/evenLight';
import { estimateIllumination } from '../tone/illumination';
import { pageSize } from './pageSize';

/** Lines of writing are told from each other at this resolution. */
const LINES_RESOLUTION = 80;
/** A side is straight where paper ends on one line at this share of the places along it. */
const STRAIGHT = 0.85;
/** No sheet bulges farther, in halves of its height. */
const MOST_REACH = 1.12;
/** Sides are looked across this finely on the longer side of a picture. */
const STEPS = 1600;

/** What is inside these corners, small and in even light. */
export function evenlyLit(picture: Picture, corners: Quadrilateral) {
	const { width, height } = pageSize(picture, corners, 0, LINES_RESOLUTION);
	const flat = flatten(picture, corners, width, height);
	return { grey: evenGrey(flat, estimateIllumination(flat)), noise: paperNoise(flat) };
}

/**
 * How the lines of a page bend, where that is sure. A sheet whose upper or lower side is straight is flat, however its
 * lines run: then whoever wrote on it let them slope. So did they where a sheet has an outline and its lines only lean.
 *
 * @param corners of the page, beginning with its upper left
 */
export function bendOf(picture: Picture, corners: Quadrilateral): Bend | null {
	const step = Math.max(1, Math.max(picture.width, picture.height) / STEPS);
	const [upperLeft, upperRight, lowerRight, lowerLeft] = corners;
	const sides: [Point, Point][] = [
		[upperLeft, upperRight],
		[lowerRight, lowerLeft]
	];
	if (sides.some((side) => (acrossEdge(picture, side, step)?.straight ?? 0) >= STRAIGHT)) return null;
	const { grey } = evenlyLit(picture, corners);
	const bend = findBend(grey, false, besidePicture(picture, corners, grey))?.bend;
	if (!bend || !hasOutline(picture, corners)) return bend ?? null;
	if (sagOf(bend) <= LEAST_SAG) return null;
	// What lies beside a sheet is no part of it, and what lies above its straight outline may be.
	return { ...bend, reach: [1, Math.min(MOST_REACH, Math.max(bend.reach[1], reachOfSheet(bend)))] };
}

/**
 * Flattens a page and, unless its lines are to stay as they were seen, makes them level where they surely bend.
 *
 * @param corners of the page, beginning with its upper left
 * @returns the page of `width x height` pixels, and the bend that was taken out
 */
export function flattenLevel(
	picture: Picture,
	corners: Quadrilateral,
	{ width, height }: Pick<Plane, 'width' | 'height'>,
	level = true
) {
	const bend = level ? bendOf(picture, corners) : null;
	return { flat: flatten(picture, corners, width, height, bend), bend };
}

/** False of the whole picture, as it came or leaning with its lines. */
function hasOutline({ width, height }: Picture, corners: Quadrilateral): boolean {
	return corners.some(([x, y]) => x > 1 && y > 1 && x < width - 1 && y < height - 1);
}

/** At the rim of the picture its own edge looks like a line: so much of its shorter side is left out. */
const RIM = 0.015;

/** 1 where a page reaches out of its picture, or lies at its rim; null where it is all inside. */
export function besidePicture(
	{ width, height }: Pick<Picture, 'width' | 'height'>,
	corners: Quadrilateral,
	page: Pick<Plane, 'width' | 'height'>
): Uint8Array | null {
	const rim = RIM * Math.min(width, height);
	const isSeen = ([x, y]: Point, by: number) => x >= by && y >= by && x <= width - by && y <= height - by;
	if (corners.every((corner) => isSeen(corner, -1))) return null;
	const map = homography(wholePicture(page.width, page.height), corners);
	const hidden = new Uint8Array(page.width * page.height);
	for (let y = 0, i = 0; y < page.height; y++) {
		for (let x = 0; x < page.width; x++, i++) hidden[i] = isSeen(project(map, [x, y]), rim) ? 0 : 1;
	}
	return hidden;
}

/**
 * Clockwise degrees by which the lines of a picture that is taken whole lean: of all of them, or of those in its middle
 * where they bend.
 *
 * @param grey of the picture, small and in even light
 * @param sideways lines run down it
 * @param isScan all of the picture is surely page
 * @returns null where they are level, or nothing sure can be said
 */
export function leanInside(grey: Plane, sideways: boolean, isScan: boolean): number | null {
	const askew = isScan ? leaning(grey, sideways) : null;
	const degrees = askew?.sure ? askew.degrees : findBend(grey, sideways)?.degrees;
	return degrees !== undefined && shouldStraighten({ degrees, sure: true }) ? degrees : null;
}
