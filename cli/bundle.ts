import { randomInt } from 'node:crypto';
import { mkdir, readFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { csvFormat } from 'd3-dsv';
import { ANSWER_ORDERS, newCode } from '../src/lib/core/bundle/codes';
import { withNamesLeft, type NamesOnPage } from '../src/lib/core/bundle/namePlaces';
import { AROUND, planBundle, type BundleOptions } from '../src/lib/core/bundle/plan';
import type { TextLine } from '../src/lib/core/reading/pageReading';
import { asCells } from '../src/lib/core/text/csvCells';
import { readTable } from '../src/lib/server/roster/readTable';
import { readCutFolder, type CutFolder, type CutPacket, type CutPerson } from './cutFolder';
import { EveryCore } from './everyCore';
import { writeWhole } from './writeWhole';

const USE =
	'Use: membrana bundle [--question Q]… [--order roster|random|code] [--seed TEXT] [--graders N] [--names hidden|shown] [--around unsure|always|never] [--apart] -o FOLDER CUTFOLDER';
const KEY = 'codes.csv';

interface Options extends BundleOptions {
	readonly output: string;
}

type Coded = CutPacket & { readonly code: string };

/** Names to hide on a page of a packet, and why somebody should look whether they all are. */
interface Hiding {
	readonly boxes: readonly TextLine['box'][];
	readonly look: NamesOnPage['look'];
}
const NOTHING_HIDDEN: Hiding = { boxes: [], look: null };
const NOT_READ: NamesOnPage = { places: [], doubtful: [], look: 'not-read' };

/**
 * `bundle --question 3 -o FOLDER CUTFOLDER`: one PDF for each question of what `cut` wrote, every answer under a code.
 * Returns 0 when all is sure, 2 when pages should be looked at, 1 on an error.
 */
export async function bundleQuestions(args: string[]): Promise<number> {
	const { values, positionals } = parseArgs({
		args,
		allowPositionals: true,
		options: {
			question: { type: 'string', multiple: true },
			order: { type: 'string', default: 'random' },
			seed: { type: 'string' },
			graders: { type: 'string', default: '1' },
			names: { type: 'string', default: 'hidden' },
			around: { type: 'string', default: 'unsure' },
			apart: { type: 'boolean', default: false },
			output: { type: 'string', short: 'o' }
		}
	});
	const [from] = positionals;
	if (!values.output || !from || positionals.length > 1) throw new Error(USE);
	const options: Options = {
		order: oneOf('--order', values.order, ANSWER_ORDERS),
		seed: values.seed ?? String(randomInt(2 ** 47)),
		graders: wholeNumber('--graders', values.graders),
		hidden: oneOf('--names', values.names, ['hidden', 'shown']) === 'hidden',
		around: oneOf('--around', values.around, AROUND),
		apart: values.apart,
		output: values.output
	};
	const folder = await readCutFolder(from);
	const known = new Set([
		...folder.questions,
		...folder.packets.flatMap((p) => p.map.map((m) => m.question))
	]);
	const questions = (values.question ?? folder.questions).map((q) => q.toLowerCase());
	const unknown = questions.find((q) => !known.has(q));
	if (unknown !== undefined) {
		throw new Error(`There is no question ${unknown}. There are: ${[...known].sort().join(', ')}.`);
	}
	await mkdir(options.output, { recursive: true });
	const codes = await codesFor(folder, join(options.output, KEY));
	const cores = new EveryCore();
	try {
		const hiding = new HiddenNames(folder, resolve(from), cores);
		let look = false;
		for (const question of questions) {
			look = (await bundle(question, folder, resolve(from), codes, hiding, options, cores)) || look;
		}
		return look ? 2 : 0;
	} finally {
		await cores.close();
	}
}

/** Makes one question's files. Returns whether something should be looked at. */
async function bundle(
	question: string,
	folder: CutFolder,
	from: string,
	codes: ReadonlyMap<CutPacket, string>,
	hiding: HiddenNames,
	options: Options,
	cores: EveryCore
): Promise<boolean> {
	const packets = byRoster(folder.packets).map((packet): Coded => ({ ...packet, code: codes.get(packet)! }));
	const plan = planBundle(question, packets, options);
	const answers = plan.files.flatMap((f) => f.answers);
	const hides = new Map<string, Hiding>();
	if (options.hidden) {
		const pages = answers.flatMap(({ packet, cutOuts }) =>
			cutOuts.map(({ position }) => ({ packet, position }))
		);
		await Promise.all(
			pages.map(async ({ packet, position }) => {
				hides.set(`${packet.file}/${position}`, await hiding.on(packet, position));
			})
		);
	}
	const hidingOn = ({ file }: Coded, position: number) => hides.get(`${file}/${position}`) ?? NOTHING_HIDDEN;
	const files = [];
	const begins = new Map<string, { file: string; page: number }>();
	for (const [i, { name, answers: share }] of plan.files.entries()) {
		const made = await cores.step('makeBundle', {
			question: `Question ${question}`,
			title: folder.title,
			without: i === plan.files.length - 1 ? plan.without.map((p) => p.code) : [],
			apart: options.apart,
			created: new Date().toISOString(),
			out: resolve(options.output, name),
			answers: share.map(({ packet, cutOuts }) => ({
				heading: packet.code,
				cutOuts: cutOuts.map((piece) => ({
					...piece,
					page: { kind: 'pdf', path: join(from, packet.file), index: piece.position - 1 },
					hide: hidingOn(packet, piece.position).boxes
				}))
			}))
		});
		files.push({ name, bytes: made.bytes, sha256: made.sha256, answers: share.map((a) => a.packet.code) });
		share.forEach(({ packet }, k) => begins.set(packet.code, { file: name, page: made.begins[k]! }));
	}
	const look = answers.flatMap(({ packet, cutOuts }) =>
		[...new Set(cutOuts.map((c) => c.position))].flatMap((position) => {
			const because = hidingOn(packet, position).look;
			return because ? [{ code: packet.code, position, because }] : [];
		})
	);
	const report = {
		question,
		assignment: folder.title,
		names: options.hidden ? 'hidden' : 'shown',
		order: options.order,
		...(options.order === 'random' ? { seed: options.seed } : {}),
		files,
		answers: answers.map(({ packet, cutOuts, confidence }) => ({
			code: packet.code,
			...begins.get(packet.code)!,
			cutOuts: cutOuts.map(({ around: _, ...piece }) => ({
				...piece,
				hidden: hidingOn(packet, piece.position).boxes
			})),
			confidence
		})),
		without: plan.without.map((p) => p.code),
		look
	};
	await writeWhole(
		join(options.output, `question-${question}.json`),
		new TextEncoder().encode(`${JSON.stringify(report, null, '\t')}\n`)
	);
	return look.length > 0;
}

/** Where names are hidden, page by page; what was found once holds for all questions. */
class HiddenNames {
	readonly #found = new Map<string, Promise<Hiding>>();

	constructor(
		readonly folder: CutFolder,
		readonly from: string,
		readonly cores: EveryCore
	) {}

	on(packet: CutPacket, position: number): Promise<Hiding> {
		const key = `${packet.file}/${position}`;
		const known = this.#found.get(key) ?? this.#look(packet, position);
		this.#found.set(key, known);
		return known;
	}

	/** What was read is hidden, and the page read again without it. */
	async #look(packet: CutPacket, position: number): Promise<Hiding> {
		const first = packet.names[position - 1] ?? NOT_READ;
		const { places } = await this.cores.step('namesLeft', {
			page: { kind: 'pdf', path: join(this.from, packet.file), index: position - 1 },
			hide: first.places.map((p) => p.box),
			roster: this.folder.people.map(asRosterPerson),
			writer: packet.person && asRosterPerson(packet.person)
		});
		const names = withNamesLeft(first, places);
		return { boxes: names.places.map((p) => p.box), look: names.look };
	}
}

/**
 * A code for each packet: those that the key in the folder has already, new ones for the rest. The key is the only file
 * that says who they are.
 */
async function codesFor(folder: CutFolder, path: string): Promise<Map<CutPacket, string>> {
	const bytes = await readFile(path).catch(() => null);
	const rows = bytes
		? readTable(bytes, KEY)
				.rows.slice(1)
				.map((r) => r.cells)
		: [];
	const kept = new Map(rows.map(([code, , , , file]) => [file ?? '', code ?? '']));
	const taken = new Set(kept.values());
	const codes = new Map<CutPacket, string>();
	for (const packet of folder.packets) {
		const code = kept.get(packet.file) || newCode(taken, () => randomInt(2 ** 32) / 2 ** 32);
		taken.add(code);
		codes.set(packet, code);
	}
	const table = byRoster(folder.packets).map((packet) =>
		asCells({
			code: codes.get(packet)!,
			sourcedId: packet.person?.sourcedId ?? '',
			givenName: packet.person?.givenName ?? '',
			familyName: packet.person?.familyName ?? '',
			file: packet.file
		})
	);
	const columns = ['code', 'sourcedId', 'givenName', 'familyName', 'file'];
	await writeWhole(path, new TextEncoder().encode(`${csvFormat(table, columns)}\n`));
	return codes;
}

/** As a roster is read: by family name, then given name; who is not known comes last. */
function byRoster(packets: readonly CutPacket[]): CutPacket[] {
	const name = ({ person }: CutPacket) => (person ? `${person.familyName}\n${person.givenName}` : '\uffff');
	return [...packets].sort((a, b) => name(a).localeCompare(name(b), 'en'));
}

function asRosterPerson({ givenName, familyName }: CutPerson) {
	return { given: givenName, family: familyName };
}

function oneOf<T extends string>(flag: string, value: string, ways: readonly T[]): T {
	const found = ways.find((way) => way === value);
	if (!found) throw new Error(`${flag} is one of ${ways.join(', ')}, not ${value}.`);
	return found;
}

function wholeNumber(flag: string, value: string): number {
	if (!/^[1-9]\d{0,2}$/.test(value)) throw new Error(`${flag} is a number from 1 to 999, not ${value}.`);
	return Number(value);
}
