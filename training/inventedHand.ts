import type { SKRSContext2D } from '@napi-rs/canvas';
import type { DrawnHand } from '../demo/generator/penman';
import type { Random } from '../demo/generator/random';
import { STROKES } from './strokes';

interface PenPoint {
	readonly x: number;
	readonly y: number;
	readonly isSharp: boolean;
}

type Stroke = readonly PenPoint[];

const parsed = new Map<string, readonly Stroke[]>();

/** The strokes of one way to write a character, as `strokes.ts` has them. */
export function strokesOf(way: string): readonly Stroke[] {
	const known = parsed.get(way);
	if (known) return known;
	const strokes = way.split(';').map((stroke) =>
		stroke
			.trim()
			.split(' ')
			.map((point): PenPoint => {
				const [x, y] = point.replace('!', '').split(',').map(Number) as [number, number];
				return { x, y, isSharp: point.endsWith('!') };
			})
	);
	parsed.set(way, strokes);
	return strokes;
}

/** Chance that a letter is written in another way than its writer's usual one. */
const OTHERWISE = 0.06;
/** Height of a capital as a part of the size, as hands of fonts are set to it. */
const CAPITAL = 0.62;

/**
 * A hand that nobody has: for each character one of the ways in which people write it, its points where this writer puts
 * them, and proportions of its own. No font stands behind it, so that there are as many hands as are asked for.
 *
 * @param enlarged what the sizes that it will be asked for have been multiplied by
 */
export function inventHand(random: Random, enlarged = 1): DrawnHand {
	const between = (from: number, to: number) => random.between(from, to);
	const own = {
		width: between(0.7, 1.3),
		gap: between(0.15, 0.45),
		/** Of what is above the height of an x, of capitals, of digits, and of what is below the line. */
		long: between(0.55, 1.3),
		capitals: between(0.8, 1.15),
		digits: between(0.7, 1.15),
		down: between(0.5, 1.2),
		pen: between(0.08, 0.22),
		/** How round a stroke is between its points, and the chance that a sharp turn is rounded off. */
		round: between(0.35, 1.1),
		rounded: random.chance(0.5) ? 0 : between(0, 0.8),
		/** How far this writer's points lie from the usual ones, and those of each letter from this writer's. */
		habit: between(0.02, 0.11),
		haste: between(0.01, 0.06),
		/** Letters run on towards the next one. */
		tail: random.chance(0.35) ? between(0.15, 0.5) : 0
	};
	const unit = ((CAPITAL / 2) * between(0.8, 1.15)) / enlarged;
	const ways = new Map<
		string,
		{ readonly usual: string; readonly shift: readonly (readonly [number, number])[] }
	>();
	const wayOf = (character: string, all: readonly string[]) => {
		let way = ways.get(character);
		if (!way) {
			const usual = random.pick(all);
			const points = strokesOf(usual).reduce((sum, stroke) => sum + stroke.length, 0);
			const shift = Array.from(
				{ length: points },
				() => [own.habit * random.normal(), own.habit * random.normal()] as const
			);
			ways.set(character, (way = { usual, shift }));
		}
		return way;
	};

	/** Where the pen goes for one letter, in heights of an x. */
	const letter = (character: string, all: readonly string[], now: Random): Stroke[] => {
		const { usual, shift } = wayOf(character, all);
		const way = now.chance(OTHERWISE) ? now.pick(all) : usual;
		const height = /\d/.test(character) ? own.digits : /[A-Z]/.test(character) ? own.capitals : 1;
		const isLower = /[a-z]/.test(character);
		let n = 0;
		const strokes = strokesOf(way).map((stroke) =>
			stroke.map(({ x, y, isSharp }): PenPoint => {
				const [dx, dy] = way === usual ? shift[n]! : [0, 0];
				n++;
				// Dots stay dots.
				const calm =
					stroke.length === 2 && Math.hypot(stroke[0]!.x - stroke[1]!.x, stroke[0]!.y - stroke[1]!.y) < 0.2;
				const moved = calm ? 0 : 1;
				const up = isLower && y > 1 ? 1 + own.long * (y - 1) : y < 0 ? own.down * y : height * y;
				return {
					x: own.width * (x + moved * (dx + own.haste * now.normal())),
					y: up + moved * (dy + own.haste * now.normal()),
					isSharp: isSharp && !now.chance(own.rounded)
				};
			})
		);
		const last = strokes[0]!.at(-1)!;
		if (own.tail > 0 && isLower && strokes.length === 1 && last.y < 0.4) {
			strokes[0] = [...strokes[0]!, { x: last.x + own.tail, y: last.y + 0.7 * own.tail, isSharp: false }];
		}
		return strokes;
	};

	return {
		draw(c, character, size, now) {
			const all = STROKES[character];
			if (!all) return null;
			const strokes = letter(character, all, now);
			const scale = unit * size;
			const right = Math.max(...strokes.flatMap((stroke) => stroke.map((p) => p.x)));
			c.save();
			c.scale(scale, -scale);
			c.lineWidth = own.pen;
			c.lineJoin = c.lineCap = 'round';
			c.beginPath();
			for (const stroke of strokes) trace(c, stroke, own.round);
			c.stroke();
			c.restore();
			return scale * (Math.max(0, right) + own.gap);
		}
	};
}

/** Goes through the points of a stroke (Catmull and Rom 1974), sharply where that is asked for. */
function trace(c: SKRSContext2D, stroke: Stroke, round: number): void {
	c.moveTo(stroke[0]!.x, stroke[0]!.y);
	const way = (i: number): readonly [number, number] => {
		const [a, b] = [stroke[i - 1], stroke[i + 1]];
		if (!a || !b || stroke[i]!.isSharp) return [0, 0];
		return [(round * (b.x - a.x)) / 6, (round * (b.y - a.y)) / 6];
	};
	for (let i = 1; i < stroke.length; i++) {
		const [from, to] = [stroke[i - 1]!, stroke[i]!];
		const [[ux, uy], [vx, vy]] = [way(i - 1), way(i)];
		c.bezierCurveTo(from.x + ux, from.y + uy, to.x - vx, to.y - vy, to.x, to.y);
	}
}
