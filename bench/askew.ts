import { fullPage, TAKES } from '../demo/generator/fullPage';
import { printedPage, PRINTED } from '../demo/generator/printedPage';
import { degreesOf } from '../src/lib/core/sheet/askew';
import { analysePicture } from '../src/lib/core/page/preparePage';
import { specimenPage } from './situations';
import { Tally } from './tally';

/** A page that leans less than this lies straight to the eye. */
const SEEN = 0.5;
/** A straightened page leans by less than this. */
const STRAIGHT = 0.3;

/**
 * How well scans that lie askew are straightened: handwritten pages and every kind of printed ones, as two-tone, fax,
 * grey and colour scans, `each` of every pair of kinds; and whether any is made worse than it came.
 */
export function benchAskew(each: number, firstSeed: number, print: (line: string) => void): void {
	const straight = { written: new Tally(), printed: new Tally() };
	let worse = 0;
	let worst = 0;
	const left = new Map<string, number>();
	for (const take of TAKES.slice(0, 4)) {
		for (const [k, kind] of [...PRINTED, ...PRINTED.map(() => 'written' as const)].entries()) {
			for (let i = 0; i < each; i++) {
				const seed = firstSeed + i * 67 + k * 1013;
				const page =
					kind === 'written'
						? specimenPage(seed, 5).picture
						: printedPage({ seed, kind, size: [1000, 1414], lines: 14 + (seed % 40) });
				const { picture, askew } = fullPage(page, take, seed);
				const { straight: found } = analysePicture(picture);
				const rest = Math.abs(askew! - (found ? degreesOf(found) : 0));
				if (Math.abs(askew!) >= SEEN) {
					straight[kind === 'written' ? 'written' : 'printed'].count(rest < STRAIGHT);
					if (rest >= STRAIGHT) left.set(kind, (left.get(kind) ?? 0) + 1);
				}
				if (rest > Math.abs(askew!) + 0.1) worse++;
				worst = Math.max(worst, found ? rest : 0);
			}
		}
	}
	print(`askew scans made straight: written ${straight.written}, printed ${straight.printed}`);
	print(`left askew or wrongly straightened: ${[...left].map(([k, n]) => `${k} ${n}`).join(', ') || 'none'}`);
	print(`made worse: ${worse}; of those straightened, the worst leans by ${worst.toFixed(2)} degrees`);
}
