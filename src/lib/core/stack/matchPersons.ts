import { logSum } from './packetLikelihood';

/** Who a packet is from, as far as it can be told. */
export interface PersonGuess {
	/** Place in the roster; null where nothing tells. */
	readonly person: number | null;
	/** 0 to 1. */
	readonly confidence: number;
	/** Nothing on it says so: everybody else has a packet. */
	readonly byElimination: boolean;
}

const ROUNDS = 60;
/** Damps the messages, which otherwise swing. */
const KEPT = 0.4;
/** However much speaks for it, a person is not surer than this. */
const SUREST = 0.995;
/** What is known of nobody but because all others are taken. */
const ELIMINATED = 0.4;
/** Of what a packet says itself, who is likelier than this is known by it. */
const SAYS = 0.8;
const ALL_TAKEN = 0.5;
const LEAST = 0.2;

/**
 * Matches packets to people, each to at most one: the chances of each pair in all matchings, weighed by what every packet
 * says itself, by belief propagation on the graph of pairs (Bayati, Gamarnik, Katz, Nair and Tetali 2007).
 *
 * @param packets for each packet, the logarithm of how likely it is each person's, and a stranger's last
 * @param isRead whether a person's name was read on a packet, and not just fits better than others
 */
export function matchPersons(
	packets: readonly Float64Array[],
	people: number,
	isRead: (packet: number, person: number) => boolean
): PersonGuess[] {
	// Against the packet being a stranger's: what it would be without anybody's name.
	const weights = packets.map((logs) =>
		Float64Array.from({ length: people }, (_, p) => Math.exp(Math.min(40, logs[p]! - logs[people]!)))
	);
	let toPacket = packets.map(() => new Float64Array(people).fill(1));
	let toPerson = packets.map(() => new Float64Array(people).fill(1));
	for (let round = 0; round < ROUNDS; round++) {
		const nextToPerson = weights.map((row, s) => {
			let all = 1;
			for (let p = 0; p < people; p++) all += row[p]! * toPacket[s]![p]!;
			return Float64Array.from(row, (w, p) => 1 / Math.max(1, all - w * toPacket[s]![p]!));
		});
		const sums = new Float64Array(people).fill(1);
		weights.forEach((row, s) => {
			for (let p = 0; p < people; p++) sums[p]! += row[p]! * toPerson[s]![p]!;
		});
		const nextToPacket = weights.map((row, s) =>
			Float64Array.from(row, (w, p) => 1 / Math.max(1, sums[p]! - w * toPerson[s]![p]!))
		);
		const mix = (old: Float64Array[], now: Float64Array[]) =>
			old.map((row, s) => row.map((v, p) => v ** KEPT * now[s]![p]! ** (1 - KEPT)));
		toPerson = mix(toPerson, nextToPerson);
		toPacket = mix(toPacket, nextToPacket);
	}
	const chances = weights.map((row, s) => {
		const pairs = row.map((w, p) => w * toPacket[s]![p]!);
		const all = 1 + pairs.reduce((a, b) => a + b, 0);
		return pairs.map((pair) => pair / all);
	});
	return packets.map((logs, s) => guess(chances[s]!, logs, people, (p) => isRead(s, p)));
}

function guess(
	chances: Float64Array,
	logs: Float64Array,
	people: number,
	isRead: (person: number) => boolean
): PersonGuess {
	let best = 0;
	for (let p = 1; p < people; p++) if (chances[p]! > chances[best]!) best = p;
	const says = isRead(best) && Math.exp(logs[best]! - logSum(logs)) >= SAYS;
	const chance = chances[best] ?? 0;
	if (people === 0 || chance < LEAST) return { person: null, confidence: 0, byElimination: false };
	if (!says && chance >= ALL_TAKEN) return { person: best, confidence: ELIMINATED, byElimination: true };
	// What the packet does not say itself is not made sure by what others say.
	const confidence = Math.min(SUREST, chance, says ? 1 : ELIMINATED);
	return { person: best, confidence, byElimination: false };
}
