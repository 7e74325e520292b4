import { aboveRow } from './aboveRow';
import type { Change } from '../packet/change';
import type { Seam } from '../packet/packet';
import type { LabelCandidate } from '../reading/labelCandidates';
import { HEADER, type PageReading } from '../reading/pageReading';
import { answerables, type Answerable, type Question } from '../assignment/question';
import { transitionScore, stepOf } from './labelEvents';

/** A proposal less sure than this is marked as unsure. */
export const UNSURE = 0.5;

/** A seam that the machine would set. */
export interface ProposedSeam extends Seam {
	/** 0 to 1. */
	readonly confidence: number;
	/** The label as read; null where none was and the place follows from the rest. */
	readonly read: string | null;
}

export interface PageToMap {
	readonly page: string;
	readonly reading: PageReading | null;
}

/** Two labels closer than this, as a fraction of the page's height, stand side by side. */
const SIDE_BY_SIDE = 0.013;
/** A person's seam settles everything this near. */
const NEAR = 0.03;
/** How likely the first question begins at the top of the first page without a label. */
const UNLABELLED_START = 0.15;
/** How likely a question that asks for a new page begins at the top of one without a label. */
const UNLABELLED_PAGE = 0.02;
/** How much less likely a label begins a question that a person has placed already, in natural logarithms. */
const PLACED = -3;
/** A question that is begun a second time is never more than unsure. */
const AGAIN = 0.45;
const NEVER = -1e9;

interface Place {
	readonly page: number;
	readonly x: number;
	readonly y: number;
	readonly text: string | null;
	/** A person's own seam: the state is what it says. */
	readonly fixed: Seam | null;
	readonly none: number;
	readonly options: readonly {
		readonly question: string | null;
		readonly part: string | null;
		readonly log: number;
	}[];
}

/**
 * The best set of seams: dynamic programming over the places where labels may stand, in reading order, weighing what
 * each may say against the order of the questions; confidences by the forward-backward algorithm (Rabiner 1989).
 *
 * @param pages in the sequence of the strip
 * @param own seams that a person set; they stay, and nothing is proposed beside them
 * @param declined keys (see `declineKey`) of proposals that a person did not want
 */
export function proposeSeams(
	questions: readonly Question[],
	pages: readonly PageToMap[],
	own: readonly Seam[] = [],
	declined: readonly string[] = []
): ProposedSeam[] {
	const ranked = answerables(questions);
	if (ranked.length === 0) return [];
	const places = placesOf(pages, own, ranked);
	const unwanted = (place: Place, rank: number) =>
		declined.includes(declineKey(pages[place.page]!.page, ranked[rank]!.id));
	const placed = new Set(own.flatMap((s) => s.questions));
	const found = bestPath(places, ranked, unwanted, placed);
	return gather(found, pages, ranked, placed);
}

/** The change that makes proposals a person's own. */
export function confirmSeams(seams: readonly ProposedSeam[]): Change {
	return {
		kind: 'together',
		changes: seams.map(({ id, page, y, questions }) => ({
			kind: 'setSeam',
			seam: { id, page, y, questions }
		}))
	};
}

/** By this name a proposal of a question on a page is declined. */
export function declineKey(page: string, question: string): string {
	return `${page} ${question}`;
}

function placesOf(pages: readonly PageToMap[], own: readonly Seam[], ranked: readonly Answerable[]): Place[] {
	const places: Place[] = [];
	pages.forEach(({ page, reading }, i) => {
		const fixed = own.filter((s) => s.page === page);
		const far = (y: number) => fixed.every((s) => Math.abs(s.y - y) > NEAR);
		const here: Place[] = fixed.map((s) => ({
			page: i,
			x: 0,
			y: s.y,
			text: null,
			fixed: s,
			none: 0,
			options: []
		}));
		for (const candidate of reading?.labels ?? []) {
			if (far(candidate.y)) here.push(placeOf(candidate, i));
		}
		const first = reading?.lines.find((l) => l.box[1] > HEADER);
		if (first && far(0) && far(first.box[1])) {
			const y = Math.max(0, first.box[1] - 0.003);
			const starters = i === 0 ? ranked.slice(0, 1) : ranked.filter((r) => r.newPage);
			const p = i === 0 ? UNLABELLED_START : UNLABELLED_PAGE;
			const options = starters.map(({ question, part }) => ({ question, part, log: Math.log(p) }));
			if (options.length > 0) {
				here.push({
					page: i,
					x: 0,
					y,
					text: null,
					fixed: null,
					none: Math.log(1 - p * options.length),
					options
				});
			}
		}
		places.push(...inReadingOrder(here));
	});
	return places;
}

/** From the top down; what stands side by side from left to right. */
function inReadingOrder(places: readonly Place[]): Place[] {
	const rows: Place[][] = [];
	for (const place of [...places].sort((a, b) => a.y - b.y)) {
		const row = rows.at(-1);
		if (row && place.y - row[0]!.y < SIDE_BY_SIDE) row.push(place);
		else rows.push([place]);
	}
	return rows.flatMap((row) => row.sort((a, b) => a.x - b.x));
}

function placeOf({ x, y, text, options }: LabelCandidate, page: number): Place {
	const all = options.reduce((sum, o) => sum + o.probability, 0);
	return {
		page,
		x,
		y,
		text,
		fixed: null,
		none: Math.log(Math.max(0.003, 1 - all)),
		options: options.map(({ question, part, probability }) => ({
			question,
			part,
			log: Math.log(probability)
		}))
	};
}

interface Chosen {
	readonly place: Place;
	readonly rank: number;
	readonly heading: boolean;
	readonly confidence: number;
}

/** State `2 (rank + 1) + heading`; state 0 is before any question. */
function bestPath(
	places: readonly Place[],
	ranked: readonly Answerable[],
	unwanted: (place: Place, rank: number) => boolean,
	placed: ReadonlySet<string>
): Chosen[] {
	const states = 2 * (ranked.length + 1);
	const rankOf = (state: number) => (state >> 1) - 1;
	/** All ways from a state over a place: where to, at what cost, and whether a label is taken there. */
	const ways = (place: Place, state: number): { to: number; log: number; taken: boolean }[] => {
		if (place.fixed) {
			const last = place.fixed.questions.at(-1);
			const rank = ranked.findIndex((r) => r.id === last);
			return [{ to: rank < 0 ? state : 2 * (rank + 1), log: 0, taken: false }];
		}
		const out = [{ to: state, log: place.none, taken: false }];
		for (const option of place.options) {
			const step = stepOf(option, ranked, rankOf(state), (state & 1) === 1);
			if (!step || unwanted(place, step.rank)) continue;
			const again = step.rank !== rankOf(state) && placed.has(ranked[step.rank]!.id) ? PLACED : 0;
			out.push({
				to: 2 * (step.rank + 1) + (step.heading ? 1 : 0),
				log: option.log + again + transitionScore(option, rankOf(state), (state & 1) === 1, step),
				taken: true
			});
		}
		return out;
	};
	const forward: Float64Array[] = [new Float64Array(states).fill(NEVER)];
	forward[0]![0] = 0;
	const best: Float64Array[] = [forward[0]!.slice()];
	const back: { from: number; taken: boolean }[][] = [];
	for (const [k, place] of places.entries()) {
		const sum = new Float64Array(states).fill(NEVER);
		const top = new Float64Array(states).fill(NEVER);
		const came: { from: number; taken: boolean }[] = [];
		for (let s = 0; s < states; s++) {
			if (forward[k]![s]! <= NEVER) continue;
			for (const { to, log, taken } of ways(place, s)) {
				sum[to] = logAdd(sum[to]!, forward[k]![s]! + log);
				const score = best[k]![s]! + log;
				if (score > top[to]!) {
					top[to] = score;
					came[to] = { from: s, taken };
				}
			}
		}
		forward.push(sum);
		best.push(top);
		back.push(came);
	}
	const backward: Float64Array[] = [new Float64Array(states)];
	for (let k = places.length - 1; k >= 0; k--) {
		const sum = new Float64Array(states).fill(NEVER);
		for (let s = 0; s < states; s++) {
			for (const { to, log } of ways(places[k]!, s)) sum[s] = logAdd(sum[s]!, log + backward[0]![to]!);
		}
		backward.unshift(sum);
	}
	const all = backward[0]![0]!;
	const chosen: Chosen[] = [];
	let state = best[places.length]!.indexOf(Math.max(...best[places.length]!));
	for (let k = places.length - 1; k >= 0; k--) {
		const { from, taken } = back[k]![state]!;
		if (taken) {
			const rank = rankOf(state);
			let mass = NEVER;
			for (let s = 0; s < states; s++) {
				for (const way of ways(places[k]!, s)) {
					if (way.taken && rankOf(way.to) === rank) {
						mass = logAdd(mass, forward[k]![s]! + way.log + backward[k + 1]![way.to]!);
					}
				}
			}
			// A label that names the question over again, or its first part, begins nothing new.
			if (rankOf(from) !== rank) {
				const confidence = Math.min(1, Math.exp(mass - all));
				chosen.unshift({ place: places[k]!, rank, heading: (state & 1) === 1, confidence });
			}
		}
		state = from;
	}
	return chosen;
}

function logAdd(a: number, b: number): number {
	const high = Math.max(a, b);
	return high <= NEVER ? NEVER : high + Math.log(Math.exp(a - high) + Math.exp(b - high));
}

/** Labels side by side become one seam; a heading whose parts were never labelled stands for all of them. */
function gather(
	chosen: readonly Chosen[],
	pages: readonly PageToMap[],
	ranked: readonly Answerable[],
	placed: ReadonlySet<string>
): ProposedSeam[] {
	const begun = new Set(placed);
	const seams: (Omit<ProposedSeam, 'id' | 'questions'> & { questions: string[]; place: Place })[] = [];
	chosen.forEach(({ place, rank, heading, confidence }, i) => {
		const next = chosen[i + 1];
		const { question } = ranked[rank]!;
		const partsFollow = next !== undefined && ranked[next.rank]!.question === question;
		const questions =
			heading && !partsFollow
				? ranked.filter((r) => r.question === question).map((r) => r.id)
				: [ranked[rank]!.id];
		const doubt = (questions.length > 1 ? 0.6 : 1) * (questions.some((q) => begun.has(q)) ? AGAIN : 1);
		for (const q of questions) begun.add(q);
		const last = seams.at(-1);
		if (last && last.place.page === place.page && place.y - last.place.y < SIDE_BY_SIDE) {
			last.questions.push(...questions.filter((q) => !last.questions.includes(q)));
			seams[seams.length - 1] = { ...last, confidence: Math.min(last.confidence, doubt * confidence) };
		} else {
			seams.push({
				page: pages[place.page]!.page,
				y: aboveRow(place.y, pages[place.page]!.reading?.lines ?? []),
				questions,
				confidence: doubt * confidence,
				read: place.text,
				place
			});
		}
	});
	return seams.map(({ place: _, ...seam }) => ({
		...seam,
		y: Math.round(1000 * seam.y) / 1000,
		confidence: Math.round(100 * seam.confidence) / 100,
		id: `${seam.page}-${seam.questions.join('-')}`.slice(0, 64)
	}));
}
