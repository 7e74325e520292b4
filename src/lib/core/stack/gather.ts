import { logSum, type PacketLikelihood } from './packetLikelihood';
import type { Segmentation } from './segment';

/** Pages of one packet, wherever they lay. */
export interface Gathered {
	/** Places in the list, in the order in which they belong. */
	readonly pages: readonly number[];
	/** How sure it is that they are one packet, 0 to 1. */
	readonly confidence: number;
	/** Those of them that lay in another's packet. */
	readonly moved: readonly number[];
}

/** That one person's pages are two packets, as the logarithm of how likely that is. */
const TWO_OF_ONE = Math.log(0.002);
/** Who is likelier than this by the names alone is known by them. */
const KNOWN = 0.8;
/** Runs of up to so many pages may lie where they do not belong. */
const LONGEST_STRAY = 2;
/** Joining must be this much likelier than leaving apart, and than joining elsewhere. */
const LEAD = 2;
/** A page without another home is put aside only where it is this much likelier not to be its host's. */
const CLEARLY = 3;
/** What it costs to put together what a sheet lies between that somebody laid there, in natural logarithms. */
const DIVIDED = 6;
/** With a page that may be another's, a packet is no surer than this. */
const DOUBTED = 0.4;
/** A page that was moved is never surer to be in its place than this. */
const MOVED = 0.8;

/**
 * Puts together what belongs together although it does not lie together: pages that lie in another's packet, and
 * packets of one person in two pieces. Pages that are in none of them have no home.
 */
export function gather(judge: PacketLikelihood, { segments }: Segmentation): Gathered[] {
	let heaps: Gathered[] = segments.map(({ packet, confidence }) => ({
		pages: packet.own,
		confidence,
		moved: []
	}));
	const strays = segments.flatMap(({ packet }) =>
		runsOf(packet.strays).map((run) => ({ run, host: packet.own[0]! }))
	);
	heaps = joined(judge, heaps);
	for (const { run, host } of strays) {
		const at = heaps.findIndex((h) => h.pages.includes(host));
		const others = heaps.filter((_, k) => k !== at);
		const apart = run.reduce((s, i) => s + judge.alone(i), 0);
		const home = homeOf(judge, run, others, apart);
		const { pages, confidence } = heaps[at]!;
		const back = [...pages, ...run].sort((a, b) => a - b);
		if (home) {
			const target = heaps.indexOf(others[home.heap]!);
			heaps[target] = withRun(heaps[target]!, home.pages, run);
		} else if (value(judge, pages) + apart - value(judge, back) <= CLEARLY) {
			// Nothing says whose it is: it stays where it lies, and the packet is to be looked at.
			heaps[at] = { ...heaps[at]!, pages: back, confidence: Math.min(confidence, DOUBTED) };
		}
	}
	return joined(judge, heaps);
}

function value(judge: PacketLikelihood, pages: readonly number[]): number {
	return judge.whole(judge.grown(pages));
}

/** Short packets that nothing makes a packet of their own, and packets of one person, put where they fit best. */
function joined(judge: PacketLikelihood, all: readonly Gathered[]): Gathered[] {
	let heaps = [...all];
	for (const run of [...heaps].sort((a, b) => a.pages.length - b.pages.length)) {
		// Others may have been put to it: then it is another packet by now.
		if (!heaps.includes(run)) continue;
		const others = heaps.filter((h) => h !== run);
		const who = knownPerson(judge, run.pages);
		const namesakes = who === null ? [] : others.filter((h) => knownPerson(judge, h.pages) === who);
		const isShort = run.pages.length <= LONGEST_STRAY;
		const candidates =
			namesakes.length > 0 ? namesakes : who !== null ? [] : isShort ? others : neighbours(run, heaps);
		if (candidates.length === 0) continue;
		const apart = value(judge, run.pages) + (namesakes.length > 0 ? TWO_OF_ONE : 0);
		const home = homeOf(judge, run.pages, candidates, apart);
		if (!home) continue;
		const target = candidates[home.heap]!;
		heaps = heaps.flatMap((h) =>
			h === run ? [] : h === target ? [withRun(target, home.pages, run.pages)] : [h]
		);
	}
	return heaps;
}

/** The packets that lie before and behind one. */
function neighbours(heap: Gathered, all: readonly Gathered[]): Gathered[] {
	const inPile = [...all].sort((a, b) => Math.min(...a.pages) - Math.min(...b.pages));
	const at = inPile.indexOf(heap);
	return [at - 1, at + 1].flatMap((k) => inPile[k] ?? []);
}

function withRun(heap: Gathered, pages: readonly number[], run: readonly number[]): Gathered {
	const moved = endBeside(run, heap.pages) === null ? [...heap.moved, ...run] : heap.moved;
	return { pages, confidence: Math.min(heap.confidence, MOVED), moved };
}

/** At which end of a packet a run of pages lies directly beside it, as a place in the packet; null where at none. */
function endBeside(run: readonly number[], pages: readonly number[]): number | null {
	if (run.at(-1)! + 1 === pages[0]) return 0;
	return pages.at(-1)! + 1 === run[0] ? pages.length : null;
}

/** The packet that a run of pages belongs to, and its pages then; null where no one clearly is. */
function homeOf(
	judge: PacketLikelihood,
	run: readonly number[],
	heaps: readonly Gathered[],
	apart: number
): { heap: number; pages: number[] } | null {
	const ways = heaps.map(({ pages }, heap) => {
		const without = value(judge, pages) + (judge.isDivided(run[0]!, pages[0]!) ? DIVIDED : 0);
		let best = { heap, pages: [...pages], gain: -Infinity };
		// What lies in its place already is not put anywhere else.
		const beside = endBeside(run, pages);
		const places = beside === null ? [...pages.keys(), pages.length] : [beside];
		for (const at of places) {
			const tried = [...pages.slice(0, at), ...run, ...pages.slice(at)];
			const gain = value(judge, tried) - without - apart;
			if (gain > best.gain) best = { heap, pages: tried, gain };
		}
		return best;
	});
	ways.sort((a, b) => b.gain - a.gain);
	const [best, second] = ways;
	if (!best || best.gain < LEAD || (second && best.gain - second.gain < LEAD)) return null;
	return best;
}

/** Whose a packet is by its names; null where they do not say. */
function knownPerson(judge: PacketLikelihood, pages: readonly number[]): number | null {
	const logs = judge.namesOf(judge.grown(pages));
	const all = logSum(logs);
	const best = logs.reduce((b, l, p) => (l > logs[b]! ? p : b), 0);
	return best < logs.length - 1 && Math.exp(logs[best]! - all) > KNOWN ? best : null;
}

/** Runs of places that follow each other. */
function runsOf(places: readonly number[]): number[][] {
	const runs: number[][] = [];
	for (const place of places) {
		const last = runs.at(-1);
		if (last && last.at(-1) === place - 1) last.push(place);
		else runs.push([place]);
	}
	return runs;
}
