import { photograph } from '../demo/generator/photograph';
import { guessTurnOf } from '../src/lib/core/page/preparePage';
import { situationSpec, SITUATIONS, specimenPage } from './situations';

/** Measures how often the turn is right, and how often it is when the machine trusts itself. */
export function benchTurns(count: number, firstSeed: number, print: (line: string) => void): void {
	let right = 0;
	let trusted = 0;
	let trustedRight = 0;
	for (let i = 0; i < count; i++) {
		const seed = firstSeed + i * 37;
		const spec = situationSpec(SITUATIONS[i % SITUATIONS.length]!, seed, [1200, 1600]);
		const { picture, corners, turn } = photograph(specimenPage(seed, 6).picture, {
			...spec,
			lies: ([0, 90, 180, 270] as const)[i % 4]
		});
		const guess = guessTurnOf(picture, corners);
		const ok = guess.turn === turn;
		right += Number(ok);
		if (guess.confidence >= 0.3) {
			trusted++;
			trustedRight += Number(ok);
		}
	}
	print(`turns: ${right} of ${count} right; with confidence 0.3 or more ${trustedRight} of ${trusted}`);
}
