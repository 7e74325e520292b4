import { photograph } from '../demo/generator/photograph';
import { analysePicture } from '../src/lib/core/page/preparePage';
import { overlap } from '../src/lib/core/sheet/geometry';
import { situationSpec, specimenPage } from './situations';

const DESKS = ['plain wood', 'dark desk', 'white on white', 'stone', 'keystone', 'hard shadow'] as const;
/** Half a page is right when it covers this much of the truth. */
const RIGHT = 0.95;

/** How often an open notebook becomes its two pages, and a single page is left alone. */
export function benchFolds(count: number, firstSeed: number, print: (line: string) => void): void {
	const right = { notebooks: 0, sheets: 0 };
	const missed: string[] = [];
	for (let i = 0; i < count; i++) {
		const seed = firstSeed + i * 41;
		const desk = DESKS[i % DESKS.length]!;
		const spec = {
			...situationSpec(desk, seed, i % 3 === 0 ? [1600, 1200] : [1200, 1600]),
			lies: ([0, 90, 180, 270] as const)[i % 4]!
		};
		const [left, opposite] = [seed, seed + 1].map((s) => specimenPage(s, 5, { paper: 'A5' }).picture);
		const notebook = photograph(left!, { ...spec, opposite });
		const { spread } = analysePicture(notebook.picture);
		const covered = notebook.halves!.map((truth) =>
			Math.max(0, ...(spread?.halves ?? []).map((half) => overlap(half, truth)))
		);
		if (Math.min(...covered) >= RIGHT) right.notebooks++;
		else missed.push(desk);
		const sheet = photograph(specimenPage(seed, 6).picture, spec);
		if (!analysePicture(sheet.picture).spread) right.sheets++;
	}
	print(
		`notebooks made into their two pages: ${right.notebooks} of ${count} (missed: ${missed.join(', ') || 'none'})`
	);
	print(`single sheets left alone: ${right.sheets} of ${count}`);
}
