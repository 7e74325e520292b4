import { eachPixelOf, type Component } from '../raster/components';
import { eachInk } from '../raster/eachInk';
import type { Plane } from '../raster/picture';
import { strokeWidth } from '../tone/strokeWidth';
import { FAINT, type InkGroups } from './besideRules';

/** What is left where rules cross is no larger than this, in millimetres … */
const SPECK = 1.7;
/** … or no larger than a square of squared paper, and thinner than this part of a stroke. */
const SQUARE = 5.2;
const THIN = 0.7;
/** So far beyond it, in millimetres, the rules are looked for, and seen in so much of that. */
const ARM = 1.8;
const SEEN = 0.8;

/**
 * The ink of a page without what is left where two rules cross: there they are as dark as writing is. On squared paper
 * there are more such specks than letters, and the usual height of a letter would be theirs.
 *
 * @param page evenly lit
 * @returns the usual width of a stroke in pixels as well
 */
export function withoutCrossings(
	groups: InkGroups,
	page: Plane,
	dotsPerInch: number
): InkGroups & { readonly stroke: number } {
	const millimetre = dotsPerInch / 25.4;
	const arm = Math.round(ARM * millimetre);
	const size = (group: Component) => Math.max(group.x1 - group.x0, group.y1 - group.y0);
	const ink = groups.ink.slice();
	const isLeft = groups.list.map(() => false);
	const clear = (isOne: (group: Component) => boolean) =>
		groups.list.forEach((group, k) => {
			if (isLeft[k] || !isOne(group) || !goesOn(group, page, arm)) return;
			isLeft[k] = true;
			eachPixelOf(group, k, groups.labels, page.width, (i) => (ink[i] = 0));
		});
	clear((group) => size(group) <= SPECK * millimetre);
	const stroke = strokeWidth(ink, page.width, page.height);
	clear((group) => {
		const { x0, y0, x1, y1, area } = group;
		return size(group) <= SQUARE * millimetre && area < THIN * stroke * (x1 - x0 + y1 - y0);
	});
	return isLeft.includes(true)
		? { ...renumbered(groups, ink, isLeft, page.width), stroke }
		: { ...groups, stroke };
}

/** The groups whose ink is left. */
function renumbered(
	{ list, labels: before }: InkGroups,
	ink: Uint8Array,
	isLeft: readonly boolean[],
	width: number
): InkGroups {
	const numbers = new Int32Array(list.length + 1);
	let kept = 0;
	isLeft.forEach((is, k) => (numbers[k + 1] = is ? 0 : ++kept));
	const labels = new Int32Array(before.length);
	eachInk(ink, width, (i) => (labels[i] = numbers[before[i]!]!));
	return { ink, list: list.filter((_, k) => !isLeft[k]), labels };
}

/** Whether something that is no paper goes on from all four sides of a group. */
function goesOn({ x0, y0, x1, y1 }: Component, { width, height, data }: Plane, arm: number): boolean {
	const isSeen = (x: number, y: number) =>
		x >= 0 && y >= 0 && x < width && y < height && data[y * width + x]! < FAINT;
	/** How many of the pixels of an arm, each as wide as the group's side, have something in them. */
	const along = (at: (d: number, v: number) => boolean, from: number, to: number) => {
		let seen = 0;
		for (let d = 0; d < arm; d++) {
			for (let v = from; v < to; v++) {
				if (!at(d, v)) continue;
				seen++;
				break;
			}
		}
		return seen >= SEEN * arm;
	};
	return (
		along((d, y) => isSeen(x0 - 2 - d, y), y0, y1) &&
		along((d, y) => isSeen(x1 + 1 + d, y), y0, y1) &&
		along((d, x) => isSeen(x, y0 - 2 - d), x0, x1) &&
		along((d, x) => isSeen(x, y1 + 1 + d), x0, x1)
	);
}
