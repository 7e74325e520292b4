import { HAND_WEIGHTS } from './handWeights';
import type { InkAndPaper } from './colours';
import { unpackHinge, type HandMeasures } from './measureHand';

/** Everything of a page that is its writer's, ready to be compared. */
export interface Hand {
	readonly measures: HandMeasures;
	readonly hinge: Float64Array;
	readonly colours: InkAndPaper | null;
}

export function handOf(measures: HandMeasures, colours: InkAndPaper | undefined): Hand {
	return { measures, hinge: unpackHinge(measures.hinge), colours: colours ?? null };
}

export const HAND_FEATURES = [
	'bias',
	'hinge',
	'hinge, much contour',
	'stroke',
	'letter',
	'pitch',
	'joined',
	'margin',
	'hue of the ink',
	'darkness of the ink',
	'paper',
	'much contour'
] as const;

/** Pixels of contour that are as good as any more. */
const MUCH = 12_000;
/** Fewer tell nothing. */
const LEAST = 600;
/** Differences count up to these, in natural logarithms and in their own units. */
const MOST = 0.6;

/** How two pages differ as their writers' hands do; null where there is too little writing to say. */
export function describePair(a: Hand, b: Hand): number[] | null {
	const contour = Math.min(a.measures.contour, b.measures.contour);
	if (contour < LEAST) return null;
	let alike = 0;
	for (let k = 0; k < a.hinge.length; k++) alike += a.hinge[k]! * b.hinge[k]!;
	const hinge = Math.sqrt(Math.max(0, 1 - alike));
	const much = Math.min(1, Math.log(contour / LEAST) / Math.log(MUCH / LEAST));
	const apart = (x: number, y: number) => (x > 0 && y > 0 ? Math.min(MOST, Math.abs(Math.log(x / y))) : 0);
	const m = a.measures;
	const n = b.measures;
	const [c, d] = [a.colours, b.colours];
	return [
		1,
		10 * hinge,
		10 * hinge * much,
		10 * apart(m.stroke, n.stroke),
		10 * apart(m.letter, n.letter),
		10 * apart(m.pitch, n.pitch),
		10 * apart(m.joined, n.joined),
		10 * Math.min(0.1, Math.abs(m.margin - n.margin)),
		c && d ? 10 * Math.min(0.3, Math.abs(c.red - d.red) + Math.abs(c.blue - d.blue)) : 0,
		c && d ? Math.min(1, Math.abs(c.dark - d.dark)) : 0,
		c && d ? 10 * Math.min(0.3, Math.max(...c.paper.map((p, k) => Math.abs(p - d.paper[k]!)))) : 0,
		much
	];
}

/**
 * Hands of people vary more from page to page than those that this was fitted on, so that it says less than it
 * could, and never more than this.
 */
const TRUST = 0.7;
const MOST_FOR = 2.5;
const MOST_AGAINST = -4;

/**
 * How much likelier the differences of two pages are if one person wrote both than if two did, as a natural
 * logarithm; 0 tells nothing. Logistic regression over the measures' differences, see `bench fit hands`.
 */
export function sameHand(a: Hand, b: Hand): number {
	const features = describePair(a, b);
	if (!features) return 0;
	const sum = features.reduce((s, f, k) => s + f * HAND_WEIGHTS[k]!, 0);
	return Math.min(MOST_FOR, Math.max(MOST_AGAINST, TRUST * sum));
}
