import type { Block } from '../demo/generator/writtenPage';
import { Random } from '../demo/generator/random';
import { preparePage } from '../src/lib/core/page/preparePage';
import type { Plane } from '../src/lib/core/raster/picture';
import { wholePicture } from '../src/lib/core/sheet/geometry';
import { greyOf } from '../src/lib/core/tone/finish';
import { DEFAULT_TONE } from '../src/lib/core/tone/tone';
import { inkOnPage } from '../src/lib/server/reader/inkOnPage';
import { someLabel } from '../training/strings';
import { specimenPage } from './situations';
import { someWriter } from './writers';

const TONE = { ...DEFAULT_TONE, name: 'greyscale' } as const;
const TEXT: Block = {
	kind: 'text',
	lines: ['the lode runs slower near', 'the reeds in the bend so', 'we took three verticals']
};
const LONG = ['Task 2 b)', 'Exercise 4', 'Problem 2 (d)', 'Ex. 13d'];
/** Darker is ink. */
const DARK = 140;
/** So far around a letter its soft edge reaches, in pixels. */
const EDGE = 2;

/**
 * How well rings and boxes are taken off labels: each label is drawn twice, with a frame and without, and what is left of
 * the first is compared with the second.
 */
export function benchFrames(count: number, firstSeed: number, print: (line: string) => void): void {
	for (const mark of ['boxed', 'circled'] as const) {
		let [found, lost, left, spoilt] = [0, 0, 0, 0];
		for (let i = 0; i < count; i++) {
			const random = new Random(firstSeed + i);
			const writer = someWriter({ hands: 'tuning', digits: i % 2 === 0 ? 'people' : 'fonts' }, random, i);
			const text = random.chance(0.5) ? someLabel(random) : random.pick(LONG);
			const ruling = random.pick(['ruled', 'squared', 'plain'] as const);
			const drawn = (framed: boolean): { plane: Plane; dotsPerInch: number } => {
				const blocks: Block[] = [{ kind: 'label', text, ...(framed ? { mark } : {}) }, TEXT];
				const alone = { ruling, blocks, name: undefined, pageNumber: undefined };
				const { picture } = specimenPage(firstSeed + i, 8, { ...writer, ...alone });
				const corners = wholePicture(picture.width, picture.height);
				const { finished, facts } = preparePage(picture, { corners, turn: 0, tone: TONE });
				return { plane: greyOf(finished), dotsPerInch: facts.dotsPerInch };
			};
			const { plane, dotsPerInch } = drawn(true);
			const { frames, clean } = inkOnPage(plane, dotsPerInch);
			if (frames.some((f) => f.kind === 'around')) found++;
			const shares = compare(plane, drawn(false).plane, clean);
			lost += shares.lost / count;
			left += shares.left / count;
			if (shares.lost > 0.1) spoilt++;
		}
		print(
			`${mark}: ${found} of ${count} found; of their letters' ink ${percent(lost)} lost, of the frame's ${percent(left)} left; ` +
				`${spoilt} labels lost more than a tenth`
		);
	}
}

const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

/** Shares of the letters' ink that is lost, and of the frame's that is left. */
function compare(framed: Plane, bare: Plane, clean: Plane): { lost: number; left: number } {
	const { width, height } = framed;
	const isDark = ({ data }: Plane, i: number) => data[i]! < DARK;
	const nearLetter = (i: number) => {
		for (let v = -EDGE; v <= EDGE; v++) {
			for (let u = -EDGE; u <= EDGE; u++) if (isDark(bare, i + v * width + u)) return true;
		}
		return false;
	};
	/** Letters count where the frame is: as far as the two drawings differ. */
	let [x0, y0, x1, y1] = [width, height, 0, 0];
	const frame: number[] = [];
	for (let y = EDGE; y < height - EDGE; y++) {
		for (let x = EDGE; x < width - EDGE; x++) {
			const i = y * width + x;
			if (!isDark(framed, i) || isDark(bare, i) || nearLetter(i)) continue;
			frame.push(i);
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
		}
	}
	let [letters, lost] = [0, 0];
	for (let y = y0; y <= y1; y++) {
		for (let x = x0; x <= x1; x++) {
			const i = y * width + x;
			if (!isDark(framed, i) || !isDark(bare, i)) continue;
			letters++;
			if (!isDark(clean, i)) lost++;
		}
	}
	const left = frame.filter((i) => isDark(clean, i)).length;
	return { lost: lost / Math.max(1, letters), left: left / Math.max(1, frame.length) };
}
