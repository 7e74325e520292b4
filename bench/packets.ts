import { Random } from '../demo/generator/random';
import type { Block, PageSpec, WrittenLabel } from '../demo/generator/writtenPage';
import { answerables, type Question } from '../src/lib/core/assignment/question';
import { PAPER_SIZES } from '../src/lib/core/sheet/paperSize';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import { HABITS, USUAL, type Habits } from './habits';
import { someWriter, type Writers } from './writers';

/** One picture of a packet as it is brought in, and the truth about it. */
export interface PacketPage {
	readonly spec: PageSpec;
	readonly role: 'page' | 'duplicate' | 'blank' | 'foreign';
	/** Whose name stands on it, as the roster has it; null where none does. */
	readonly named: string | null;
	/** Place in the true sequence, from 1; of a duplicate, that of the page it repeats. */
	readonly position: number | null;
	/** As written; null where no number is. */
	readonly number: number | null;
	readonly fileName: string;
	/** Standard deviation in pixels by which this picture is out of focus. */
	readonly blur: number;
}

/** A made-up packet with everything that goes wrong in one. */
export interface SamplePacket {
	readonly seed: number;
	readonly sheet: RuleSheet;
	readonly person: string;
	readonly roster: readonly string[];
	/** Shuffled, as brought in. */
	readonly pages: readonly PacketPage[];
	/** True seams in reading order, on positions from 1. */
	readonly seams: readonly { readonly position: number; readonly y: number; readonly questions: string[] }[];
	/** Numbers of pages that were left out. */
	readonly missing: readonly number[];
	readonly numbered: boolean;
}

const GIVEN =
	'Ilka Tobias Senna Jorrit Nadia Piet Amara Hugo Yara Owen Mirthe Dov Liv Kasper Noor Ruben'.split(' ');
const FAMILY =
	'Brandsma Okoro Vartiainen Amsel Ferreyra Zwartveen Dellacroix Lindqvist Benhaddou Tresidder Kalverboer Rosenquist Haverkamp Solberg Mbeki Castellan'.split(
		' '
	);

/** Words of one subject each; work on one question keeps to one of them. */
const SUBJECTS = [
	'current meter velocity depth vertical strip width tape rod counter turns seconds mean reading',
	'weir crest head notch plate pond gauge level discharge coefficient crest approach nappe',
	'rain funnel bottle millimetre storm cloud wind fence rim catch tipping bucket hour',
	'error square root percent spread repeat scatter bias sample estimate bound interval',
	'peat reed bank mud root silt bed channel ditch bend shade weed clearing',
	'rise peak recession lag storm hydrograph baseflow crest falling limb separation curve',
	'salt tracer dilution probe mixing length slug plateau background sample bottle conductivity'
].map((s) => s.split(' '));
const GLUE =
	'the a of and we then so with from which is was at this for after near both over as it until'.split(' ');

class Prose {
	#words: string[] = [];
	constructor(
		readonly random: Random,
		readonly subject: readonly string[],
		/** How lines begin now and then, where not with a word: with values, dates and the like. */
		readonly likeLabel: Habits['likeLabel'] | null = null
	) {}
	#sentence(): void {
		const { random } = this;
		const length = random.whole(7, 14);
		const words = Array.from({ length }, (_, i) => random.pick(i % 2 === 0 ? this.subject : GLUE));
		words[0] = words[0]![0]!.toUpperCase() + words[0]!.slice(1);
		words[words.length - 1] += '.';
		if (random.chance(0.3)) words.splice(4, 0, `${random.whole(1, 40)}.${random.whole(0, 9)}`);
		this.#words.push(...words);
	}
	/** A line of writing; the last one ends with its sentence. */
	line(end: boolean): string {
		const most = 34;
		const { random } = this;
		let line = this.likeLabel && !end && random.chance(0.09) ? this.likeLabel(random) : '';
		for (;;) {
			if (this.#words.length === 0) {
				if (end && line.length > 12) return line;
				this.#sentence();
			}
			const next = this.#words[0]!;
			if (line.length + next.length > most) return line;
			line += (line ? ' ' : '') + this.#words.shift()!;
		}
	}
	get midSentence(): boolean {
		return this.#words.length > 0;
	}
	finish(): string[] {
		const lines: string[] = [];
		while (this.#words.length > 0) lines.push(this.line(true));
		return lines;
	}
}

const [, HEIGHT] = PAPER_SIZES.A4;
const LINES_A_PAGE = { ruled: 30, plain: 30, squared: 25 } as const;
/** What a packet has in common with those of a class; nothing goes wrong in it. */
export interface InClass {
	readonly person: string;
	readonly roster: readonly string[];
	readonly questions: readonly Question[];
	readonly named: 'all' | 'first' | 'none';
	/** Of lines, beside what packets usually have. */
	readonly length: number;
}

/** A packet of 3 to 12 pages, by its seed. */
export function samplePacket(
	seed: number,
	writers: Writers = { hands: 'demo' },
	inClass?: InClass
): SamplePacket {
	const random = new Random(seed);
	const varied = writers.hands !== 'demo';
	const habits = varied && writers.habits ? HABITS[writers.habits] : USUAL;
	const writer = someWriter(writers, random, varied ? seed : undefined);
	const ruling = random.pick(['ruled', 'squared', 'plain'] as const);
	const own = shuffled(FAMILY, random)
		.slice(0, varied ? 30 : 12)
		.map((family) => `${random.pick(GIVEN)} ${family}`);
	const roster = inClass?.roster ?? own;
	const person = inClass?.person ?? roster[0]!;
	const drawn = inClass?.questions ?? makeQuestions(random);
	const usuallyAt = random.pick(['margin', 'margin', 'line'] as const);
	const mark = random.pick([undefined, undefined, 'underlined', 'circled', 'boxed'] as const);
	const style = random.pick(habits.labels);
	const partStyle = random.pick(habits.parts);
	const aloneStyle = random.chance(0.5) ? random.pick(habits.partsAlone) : null;
	const numberStyle = random.chance(0.6) ? random.pick(habits.numbers) : null;
	const pageNumberAt =
		numberStyle === '#'
			? random.pick(['top-right', 'bottom', 'bottom-right'] as const)
			: random.pick(['top-right', 'top-left', 'bottom', 'bottom-right', 'top-right'] as const);
	const usuallyNamed = pageNumberAt === 'top-left' ? 'right' : random.pick(['left', 'middle'] as const);
	const nameOnAll = random.chance(0.6);
	const spaced = random.pick([0, 0.5, 1]);
	const subjects = shuffled(SUBJECTS, random);
	/** What was drawn later goes by chances of its own, so that the rest of a packet stays as its seed made it. */
	const beside = new Random(seed + 1);
	const before = !inClass && habits.before.length > 1 ? beside.pick(habits.before) : 0;
	const questions = before ? drawn.map((q) => ({ ...q, label: String(Number(q.label) + before) })) : drawn;
	const header = habits.header(beside);
	const brief = habits.brief > 0 && beside.chance(habits.brief);
	const placing = inClass ? null : habits.placing(new Random(seed + 2));
	const at = placing?.labelsAt ?? usuallyAt;

	const written = varied ? random.pick(habits.names) : '# ~';
	const nameStyle = (name: string) => {
		const [given, family] = name.split(' ') as [string, string];
		return written.replace('~', family).replace('#', given);
	};

	const labelText = (question: string, part: string, first: boolean) => {
		if (part === '') return style.replace('#', question);
		if (!first && aloneStyle) return aloneStyle.replace('~', part);
		return partStyle.replace('#', question).replace('~', part);
	};

	// The whole answer as lines and labels, flowed over pages.
	const linesAPage = placing
		? Math.floor((HEIGHT - 20) / placing.pitch) - placing.gap - 1
		: LINES_A_PAGE[ruling];
	const capacity = linesAPage - 2 - (header.length > 0 ? 2 : 0);
	const bodies: Block[][] = [[]];
	const seams: { position: number; y: number; questions: string[] }[] = [];
	let used = 0;
	const newPage = () => {
		bodies.push([]);
		used = 0;
	};
	const put = (block: Block, lines: number) => {
		bodies.at(-1)!.push(block);
		used += lines;
	};
	const ids: string[][] = [];
	let s = 0;
	for (const question of questions) {
		const parts = question.parts?.map((p) => p.label) ?? [''];
		for (const [i, part] of parts.entries()) {
			const id = (question.label + part).toLowerCase();
			if (question.newPage && i === 0 && used > 0) newPage();
			if (used > capacity - 4) newPage();
			const prose = new Prose(random, subjects[s++ % subjects.length]!, varied ? habits.likeLabel : null);
			const nextPart = parts[i + 1];
			// Two short parts are sometimes written side by side.
			if (nextPart !== undefined && used + 6 < capacity && random.chance(0.12)) {
				const column = (p: string, first: boolean, q: string) => ({
					text: labelText(question.label, p, first),
					question: q,
					lines: [prose.line(false).slice(0, 14), prose.line(false).slice(0, 14)]
				});
				put(
					{
						kind: 'beside',
						columns: [
							column(part, i === 0, id),
							column(nextPart, false, (question.label + nextPart).toLowerCase())
						]
					},
					3
				);
				put({ kind: 'space', lines: 1 }, 1);
				ids.push([id, (question.label + nextPart).toLowerCase()]);
				parts.splice(i + 1, 1);
				continue;
			}
			const corrected =
				habits.corrected > 0 && beside.chance(habits.corrected)
					? labelText(String(Number(question.label) + 1), part, i === 0)
					: undefined;
			const text = labelText(question.label, part, i === 0);
			const indent = part !== '' && placing?.partIndent ? { indent: placing.partIndent } : {};
			const label: WrittenLabel = {
				text,
				question: id,
				at,
				mark,
				...indent,
				...(corrected ? { corrected } : {})
			};
			put({ kind: 'label', ...label }, at === 'own' ? 1 : 0);
			ids.push([id]);
			const usual = random.chance(0.25) ? random.whole(14, 40) : random.whole(4, 12);
			const lines = brief ? 1 : Math.max(2, Math.round(usual * (inClass?.length ?? 1)));
			const table = random.chance(0.2);
			const graph = varied && beside.chance(0.15);
			let first = at === 'line';
			for (let n = 0; n < lines; n++) {
				if (used >= capacity) newPage();
				const text = prose.line(n === lines - 1);
				put({ kind: 'text', lines: [first ? text.split(' ').slice(0, 3).join(' ') : text] }, 1);
				first = false;
				if (table && n === 2 && used < capacity - 8) {
					put(tableBlock(random), 6);
				}
				const aside = n > 0 && used < capacity - 5 && !first ? habits.aside(beside) : null;
				if (aside) put(aside.block, aside.lines);
				if (graph && n === 3 && used < capacity - 11) put(graphBlock(beside), 10);
			}
			for (const text of prose.finish()) {
				if (used >= capacity) newPage();
				put({ kind: 'text', lines: [text] }, 1);
			}
			if (used < capacity - 1 && random.chance(spaced)) put({ kind: 'space', lines: 1 }, 1);
		}
	}
	const total = bodies.length;
	const isNamed = (page: number) =>
		inClass ? inClass.named === 'all' || (inClass.named === 'first' && page === 1) : nameOnAll || page === 1;
	const page = (number: number, blocks: readonly Block[], change: Partial<PageSpec> = {}): PageSpec => ({
		seed: seed * 100 + number,
		...writer,
		paper: 'A4',
		ruling,
		name: isNamed(number) ? nameStyle(person) : undefined,
		nameAt: placing?.nameAt ?? usuallyNamed,
		pageNumber: numberStyle?.replace('#', String(number)).replace('N', String(total)),
		pageNumberAt,
		...(placing ? { layout: placing } : {}),
		...(header.length > 0 ? { header } : {}),
		blocks,
		...change
	});
	const number = (n: number) => (numberStyle ? n : null);
	const pages: Omit<PacketPage, 'fileName'>[] = bodies.map((blocks, i) => ({
		spec: page(i + 1, blocks),
		role: 'page',
		named: isNamed(i + 1) ? person : null,
		position: i + 1,
		number: number(i + 1),
		blur: random.between(0.3, 0.9)
	}));
	let order = 0;
	bodies.forEach((blocks, i) => {
		for (const block of blocks) {
			const count = block.kind === 'label' ? 1 : block.kind === 'beside' ? 1 : 0;
			if (count) seams.push({ position: i + 1, y: NaN, questions: ids[order++]! });
		}
	});

	const missing: number[] = [];
	const sheet: RuleSheet = {
		title: 'Worksheet 5: The Sluice',
		course: 'HY-2',
		questions,
		pages: { min: 1, max: 14, size: 'A4' },
		file: { namePattern: '{family}_{given}' }
	};
	const packet = { seed, sheet, person, roster, seams, numbered: numberStyle !== null };
	const named = (all: readonly Omit<PacketPage, 'fileName'>[]) =>
		all.map((p, i) => ({ ...p, fileName: `IMG_${3100 + i}.jpg` }));
	if (inClass) return { ...packet, pages: named(pages), missing };
	if (total > 3 && random.chance(0.2)) {
		const gone = random.whole(2, total - 1);
		missing.push(gone);
		pages.splice(gone - 1, 1);
	}
	if (random.chance(0.35)) {
		const twin = random.pick(pages);
		pages.push({
			...twin,
			role: 'duplicate',
			blur: random.chance(0.5) ? random.between(1.6, 2.6) : twin.blur
		});
	}
	if (random.chance(0.25)) {
		pages.push({
			spec: page(0, [], { name: undefined, pageNumber: undefined }),
			role: 'blank',
			named: null,
			position: null,
			number: null,
			blur: 0.5
		});
	}
	if (random.chance(0.2)) {
		const prose = new Prose(random, random.pick(SUBJECTS));
		const lines = Array.from({ length: 12 }, () => prose.line(false));
		const blocks: Block[] = [
			{ kind: 'label', text: style.replace('#', '1'), at, mark },
			{ kind: 'text', lines }
		];
		const other = roster[random.whole(1, 11)]!;
		const spec = page(1, blocks, { name: nameStyle(other), seed: seed * 100 + 77 });
		pages.push({ spec, role: 'foreign', named: other, position: null, number: null, blur: 0.5 });
	}
	return { ...packet, pages: named(shuffled(pages, random)), missing };
}

export function makeQuestions(random: Random): Question[] {
	const count = random.whole(3, 7);
	return Array.from({ length: count }, (_, i): Question => {
		const newPage = random.chance(0.25);
		const parts = random.chance(0.4)
			? 'abcd'
					.slice(0, random.whole(2, 4))
					.split('')
					.map((label) => ({ label }))
			: undefined;
		return { label: String(i + 1), ...(newPage ? { newPage } : {}), ...(parts ? { parts } : {}) };
	});
}

function tableBlock(random: Random): Block {
	return {
		kind: 'table',
		rows: Array.from({ length: 4 }, (_, i) =>
			Array.from({ length: 4 }, (_, j) =>
				i === 0 ? ['n', 'x / m', 'd / m', 'v'][j]! : j === 0 ? String(i) : (random.next() * 3).toFixed(2)
			)
		)
	};
}

const QUANTITIES = [...'QqvhxtdTIRVpFEmAc'];
const UNITS = [
	'm',
	'cm',
	'mm',
	's',
	'h',
	'min',
	'm/s',
	'm3/s',
	'm3 s-1',
	'l/s',
	'l s-1',
	'kg',
	'g',
	'N',
	'J',
	'W',
	'%',
	'mg/l'
];

/** A curve with what its axes say: quantities and units, which begin like labels. */
function graphBlock(random: Random): Block {
	const axis = () => {
		const form = random.pick(['# / ~', '# / ~', '#/~', '# (~)', '# in ~', '# [~]', '#']);
		return form.replace('#', random.pick(QUANTITIES)).replace('~', random.pick(UNITS));
	};
	const title = random.chance(0.5) ? `${random.whole(1, 28)} Oct` : `run ${random.whole(1, 9)}`;
	return { kind: 'graph', title, axes: [axis(), axis()] };
}

export function shuffled<T>(items: readonly T[], random: Random): T[] {
	const out = [...items];
	for (let i = out.length - 1; i > 0; i--) {
		const j = random.whole(0, i);
		[out[i], out[j]] = [out[j]!, out[i]!];
	}
	return out;
}

/** All that can be answered, for the report of what a packet holds. */
export function questionIds(packet: SamplePacket): string[] {
	return answerables(packet.sheet.questions).map((q) => q.id);
}

/** A name of the roster as a person's. */
export function personOf(name: string) {
	const [given = '', family = ''] = name.split(' ');
	return { given, family };
}
