import { rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { samplePacket } from '../bench/packets';
import { blankBack, feed, type FedPage } from '../bench/stacks/feed';
import { ruleSheets, STUDENTS } from './school';

/** Packets of the demo's pile, and the seed of the first. */
const PACKETS = 11;
const SEED = 7000;

/** Draws a class's pile as one PDF of a sheet feeder: names on all pages or the first, one on none, a stray, a blank back. */
export async function makePile(pictures: string): Promise<void> {
	const { questions } = ruleSheets(Date.now()).lode;
	const roster = STUDENTS.map((s) => `${s.given} ${s.family}`);
	const packets = roster.slice(0, PACKETS).map((person, i): FedPage[] => {
		const named = i === 5 ? 'none' : i % 2 === 0 ? 'all' : 'first';
		const sample = samplePacket(
			SEED + i,
			{ hands: 'demo' },
			{ person, roster, questions, named, length: 0.6 }
		);
		return sample.pages.map(({ spec }) => ({ spec, lies: 0 }));
	});
	// A page of the third in the packet of the seventh; a blank back; the last two upside down.
	packets[6]!.splice(1, 0, packets[2]!.pop()!);
	packets[3]!.push(blankBack(packets[3]![0]!));
	for (const k of [PACKETS - 2, PACKETS - 1]) packets[k] = packets[k]!.map((p) => ({ ...p, lies: 180 }));
	const path = join(pictures, 'gauging-the-lode', 'the class.pdf');
	await writeFile(`${path}.part`, await feed(packets.flat(), SEED));
	await rename(`${path}.part`, path);
}
