import { findOutline } from '../src/lib/core/sheet/outline';
import { overlap } from '../src/lib/core/sheet/geometry';
import { photograph } from '../demo/generator/photograph';
import { situationSpec, SITUATIONS, specimenPage } from './situations';

/** Measures outlines against the generator's truth; one line a situation, then the calibration. */
export function benchOutlines(each: number, firstSeed: number, print: (line: string) => void): void {
	const all: { overlap: number; confidence: number }[] = [];
	for (const situation of SITUATIONS) {
		const rows: typeof all = [];
		for (let i = 0; i < each; i++) {
			const seed = firstSeed + i * 31 + SITUATIONS.indexOf(situation) * 1009;
			const page = specimenPage(seed, 6);
			const spec = situationSpec(situation, seed, i % 4 === 3 ? [1600, 1200] : [1200, 1600]);
			const { picture, corners } = photograph(page.picture, spec);
			const found = findOutline(picture);
			rows.push({ overlap: overlap(found.corners, corners), confidence: found.confidence });
		}
		all.push(...rows);
		print(`${situation.padEnd(22)} ${summary(rows)}`);
	}
	print(`${'all'.padEnd(22)} ${summary(all)}`);
	const sure = all.filter((r) => r.confidence >= 0.5);
	print(
		`confidence >= 0.5: ${sure.length} of ${all.length}, ` +
			`${sure.filter((r) => r.overlap < 0.95).length} of them under 0.95 overlap`
	);
}

function summary(rows: readonly { overlap: number; confidence: number }[]): string {
	const mean = rows.reduce((s, r) => s + r.overlap, 0) / rows.length;
	const worst = Math.min(...rows.map((r) => r.overlap));
	const under = rows.filter((r) => r.overlap < 0.9).length;
	return `mean overlap ${mean.toFixed(4)}  worst ${worst.toFixed(3)}  under 0.9: ${under} of ${rows.length}`;
}
