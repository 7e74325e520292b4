import { CURLS, photographCurled } from '../demo/generator/curled';
import { fullPage, TAKES } from '../demo/generator/fullPage';
import { photograph } from '../demo/generator/photograph';
import { printedPage, PRINTED } from '../demo/generator/printedPage';
import { Random } from '../demo/generator/random';
import { noPage, SCENES } from '../demo/generator/scene';
import type { Picture } from '../src/lib/core/raster/picture';
import { wholePicture, type Quadrilateral } from '../src/lib/core/sheet/geometry';
import { situationSpec, SITUATIONS, specimenPage } from './situations';

/** Kinds of pictures for judging whether there is a sheet at all, and where. */
export const KINDS = [
	'sheet',
	'curled sheet',
	'blurred print',
	'on a corner',
	'corners outside',
	'full page',
	'no page'
] as const;
export type DrawnKind = (typeof KINDS)[number];

export interface DrawnPicture {
	readonly kind: DrawnKind;
	readonly name: string;
	readonly picture: Picture;
	/** Outlines that are right; none where there is no page. */
	readonly right: readonly Quadrilateral[];
}

const PAPERS = [
	[250, 249, 245],
	[250, 249, 245],
	[232, 214, 176],
	[206, 180, 140],
	[240, 240, 244]
] as const;

/** Pictures of every kind in turn: sheets in all situations, pages that fill the picture, and no pages. */
export function* drawnPictures(each: number, firstSeed: number): Generator<DrawnPicture> {
	for (const [k, situation] of SITUATIONS.entries()) {
		for (let i = 0; i < each; i++) {
			const seed = firstSeed + i * 31 + k * 1009;
			const size = i % 4 === 3 ? ([1600, 1200] as const) : ([1200, 1600] as const);
			const shot = photograph(anyPage(seed), situationSpec(situation, seed, size));
			yield { kind: 'sheet', name: situation, picture: shot.picture, right: [shot.corners] };
		}
	}
	for (let i = 0; i < 6 * each; i++) {
		const seed = firstSeed + 20_000 + i * 37;
		const random = new Random(seed + 9);
		const curl = CURLS[i % 3]!;
		const { picture, seenAt } = photographCurled(anyPage(seed), {
			seed,
			curl,
			strength: random.between(0.15, 0.9),
			framing: 'on a desk',
			desk: random.pick(['wood', 'dark', 'white', 'stone', 'cloth'] as const),
			size: [1200, 1600]
		});
		const corners = [seenAt([0, 0]), seenAt([1, 0]), seenAt([1, 1]), seenAt([0, 1])] as const;
		yield { kind: 'curled sheet', name: curl, picture, right: [corners] };
	}
	for (let i = 0; i < 10 * each; i++) yield blurredPrint(firstSeed + 22_000 + i * 43);
	for (let i = 0; i < 6 * each; i++) yield onCorner(firstSeed + 25_000 + i * 47);
	for (let i = 0; i < 6 * each; i++) yield runningOut(firstSeed + 30_000 + i * 41);
	for (let i = 0; i < 22 * each; i++) {
		const seed = firstSeed + 50_000 + i * 17;
		const random = new Random(seed + 5);
		const kind = PRINTED[i % PRINTED.length]!;
		const take = TAKES[Math.floor(i / PRINTED.length) % TAKES.length]!;
		const isScan = take !== 'close crop' && take !== 'book page';
		const page = random.chance(0.25)
			? specimenPage(seed, 5).picture
			: printedPage({
					seed,
					kind,
					size: [1000, random.chance(0.7) ? 1414 : random.whole(400, 1300)],
					paper: isScan ? PAPERS[0] : random.pick(PAPERS),
					lines: random.whole(14, 60)
				});
		const { picture, corners } = fullPage(page, take, seed);
		const whole = wholePicture(picture.width, picture.height);
		yield { kind: 'full page', name: `${take}, ${kind}`, picture, right: [corners, whole] };
	}
	for (let i = 0; i < 10 * each; i++) {
		const seed = firstSeed + 90_000 + i * 13;
		const kind = SCENES[i % SCENES.length]!;
		const picture = noPage(seed, kind, i % 2 ? [900, 700] : [700, 900]);
		yield { kind: 'no page', name: kind, picture, right: [] };
	}
}

/** Printed text out of focus, its last lines near the sheet's sides. */
function blurredPrint(seed: number): DrawnPicture {
	const random = new Random(seed + 13);
	const kind = random.pick(['text', 'columns', 'worksheet'] as const);
	const spec = situationSpec(random.pick(SITUATIONS.slice(0, 5)), seed, [900, 1200]);
	const page = printedPage({ seed, kind, size: [900, 1270] });
	const shot = photograph(page, { ...spec, blur: random.between(0.6, 2) });
	return {
		kind: 'blurred print',
		name: `${spec.desk}, ${kind}`,
		picture: shot.picture,
		right: [shot.corners]
	};
}

/** A sheet that was photographed aslant. */
function onCorner(seed: number): DrawnPicture {
	const random = new Random(seed + 17);
	const spec = situationSpec(random.pick(SITUATIONS.slice(0, 5)), seed, [1200, 1600]);
	const shot = photograph(anyPage(seed), {
		...spec,
		fill: random.between(0.5, 0.66),
		slant: random.between(30, 60) * random.pick([-1, 1])
	});
	return { kind: 'on a corner', name: spec.desk, picture: shot.picture, right: [shot.corners] };
}

/** A sheet of which corners may lie outside of its picture. */
export function runningOut(seed: number): DrawnPicture {
	const random = new Random(seed + 3);
	const spec = situationSpec(random.pick(SITUATIONS.slice(0, 5)), seed, [1200, 1600]);
	const shot = photograph(anyPage(seed), {
		...spec,
		fill: random.between(0.6, 0.95),
		slant: random.between(-20, 20),
		shift: [random.between(-0.22, 0.22), random.between(-0.22, 0.22)],
		finger: random.chance(0.3)
	});
	return { kind: 'corners outside', name: spec.desk, picture: shot.picture, right: [shot.corners] };
}

function anyPage(seed: number): Picture {
	const random = new Random(seed + 11);
	return random.chance(0.5)
		? specimenPage(seed, 5).picture
		: printedPage({ seed, kind: random.pick(PRINTED), size: [1050, 1485] });
}
