import { PAPER_SIZES } from '../src/lib/core/sheet/paperSize';
import type { Random } from '../demo/generator/random';
import type { Block, HeaderLine, Layout, WrittenLabel } from '../demo/generator/writtenPage';

/** Where a writer puts things, and how much stands on a page. */
export interface Placing extends Layout {
	readonly labelsAt: NonNullable<WrittenLabel['at']>;
	/** How far in the label of a part begins, in millimetres. */
	readonly partIndent: number;
	readonly nameAt: 'left' | 'middle' | 'right';
}

/** What writers of a kind put on their pages, beside their work: how labels and numbers look, and what else stands there. */
export interface Habits {
	/** `#` is the question or number, `~` the part, `N` the count of pages. */
	readonly labels: readonly string[];
	readonly parts: readonly string[];
	readonly partsAlone: readonly string[];
	readonly numbers: readonly string[];
	/** `#` is the given name, `~` the family name. */
	readonly names: readonly string[];
	/** Questions may begin after this one: 0 where the sheet begins with 1. */
	readonly before: readonly number[];
	/** What else the header says; without chances drawn where it is nothing. */
	header(random: Random): readonly HeaderLine[];
	/** What stands between two lines of an answer, and the lines it takes. */
	aside(random: Random): { readonly block: Block; readonly lines: number } | null;
	/** How a line begins that looks like a label, and is none. */
	likeLabel(random: Random): string;
	/** Null where it is as on paper with a margin. */
	placing(random: Random): Placing | null;
	/** Of labels, how many are a correction of another. */
	readonly corrected: number;
	/** Of packets, how many answer every question in a line. */
	readonly brief: number;
}

/** What the reader was made with: its weights are fitted on packets of this kind. */
export const USUAL: Habits = {
	labels: ['Q#', '#.', '#)', '(#)', 'Question #', '#:', 'Qu #', 'Q#.', 'No #'],
	parts: ['# (~)', '#~)', '#(~)', '#~', '#.~', '# ~)', 'Q#~', 'Q# (~)', 'Question # (~)'],
	partsAlone: ['(~)', '~)', '~.'],
	numbers: ['p. #/N', '# of N', 'page #', '-#-', '#/N', 'p#', '- # -', 'Page # of N', 'p. #', '#'],
	names: ['# ~', '# ~', 'Name: # ~', '~, #', 'Name # ~', '~ #'],
	before: [0],
	header: () => [],
	aside: () => null,
	likeLabel(random) {
		const value = `${random.whole(0, 99)}.${random.whole(1, 99)}`;
		return random.pick([
			value,
			`${value} m`,
			`${random.whole(1, 12)} ${random.pick(['m', 'cm', 'times', 'turns', 'of'])}`,
			`= ${value}`,
			`${random.pick([...'vhqtA'])} = ${value}`,
			`${random.whole(1, 28)}.${random.whole(1, 12)}.26`,
			`- ${random.whole(2, 9)}`,
			`${random.whole(10, 400)}`
		]);
	},
	placing: () => null,
	corrected: 0,
	brief: 0
};

/** Places at random within bounds, in millimetres; the page's number in one of the corners or between them. */
function somePlacing(
	random: Random,
	within: {
		readonly left: readonly [number, number];
		readonly pitch: readonly [number, number];
		readonly header: readonly [number, number];
		/** Of numbers, how many stand in the left corner above. */
		readonly leftCorner: number;
	}
): Placing {
	const [width, height] = PAPER_SIZES.A4;
	const pitch = random.between(...within.pitch);
	const header = random.between(...within.header);
	const above = Math.max(6, header + random.between(-5, 2));
	const below = height - random.between(5, 14);
	const corner = random.between(3, 16);
	const middle = width * random.between(0.44, 0.52);
	const right = width * random.between(0.78, 0.9);
	const isLeft = random.chance(within.leftCorner);
	const number = isLeft
		? ([corner, above] as const)
		: random.pick([
				[right, above],
				[right, above],
				[middle, below],
				[right, below],
				[corner, below]
			] as const);
	return {
		left: random.between(...within.left),
		pitch,
		size: (pitch / 8.5) * random.between(0.85, 1.15),
		header,
		gap: random.pick([0, 0, 1, 2]),
		number,
		labelsAt: random.pick(['margin', 'line', 'own'] as const),
		partIndent: random.chance(0.4) ? random.between(3, 14) : 0,
		nameAt: number[0] === right && number[1] === above ? random.pick(['left', 'middle']) : 'right'
	};
}

/** A wider world to fit on: what else headers say, lists and formulas in answers, labels that are named or corrected. */
export const WIDER: Habits = {
	labels: [...USUAL.labels, 'Ex #', 'Task #:', 'Problem #.', 'Exercise #', 'Answer #:', '[#]'],
	parts: [...USUAL.parts, 'Ex # ~)', '#-~)', 'Task #~', '#. (~)', '[#~]'],
	partsAlone: [...USUAL.partsAlone, '[~]', '~'],
	numbers: [...USUAL.numbers, '[#]', 'sheet # of N', 'pg. #', '(#)', 'Seite #', '#.', '#', '#', '#.'],
	names: [...USUAL.names, 'Name ~, #', 'Pupil: # ~', '# ~ (9b)'],
	before: [0, 0, 0, 4],
	header(random) {
		if (random.chance(0.3)) return [];
		const number = random.whole(1, 12);
		const lines = [
			`HY-3 Unit ${number}`,
			`Quiz ${number}`,
			`Oct ${number}, 2026`,
			`${number}/10/26`,
			`Term ${random.whole(1, 4)}, week ${number}`,
			`ID ${random.whole(1_000, 999_999)}`,
			`Room ${number}`,
			`Chapter ${number}.${random.whole(1, 9)}`
		];
		const one = { text: random.pick(lines), at: random.pick([0.15, 0.2, 0.45]) };
		return random.chance(0.4) ? [one, { text: random.pick(lines), at: 0.7 }] : [one];
	},
	aside(random) {
		const kind = random.next();
		if (kind < 0.015) {
			const sign = random.pick(['#.', '#)', '#:', '(#)', '~)', '(~)']);
			const items = ['pump off', 'drain it', 'look at the gauge', 'note the level', 'again'].slice(
				0,
				random.whole(2, 5)
			);
			const lines = items.map(
				(item, i) => `${sign.replace('#', String(i + 1)).replace('~', 'abcde'[i]!)} ${item}`
			);
			return { block: { kind: 'text', lines, indent: random.between(2, 16) }, lines: lines.length };
		}
		if (kind < 0.05) {
			const value = () => `${random.whole(1, 30)}.${random.whole(1, 99)}`;
			const block = {
				kind: 'formula',
				before: random.pick(['q =', 'A =', '3 q =', '=', 'w2 =']),
				over: random.pick(['V', `${value()} l`, 'a + b', '3 r']),
				under: random.chance(0.7) ? random.pick(['T', `${value()} h`, '4', 'a b']) : null,
				behind: random.pick(['', `= ${value()}`, `[${random.whole(1, 9)}]`])
			} as const;
			return { block, lines: 2 };
		}
		return null;
	},
	likeLabel(random) {
		if (random.chance(0.6)) return USUAL.likeLabel(random);
		const number = random.whole(1, 9);
		return random.pick([
			`Fig ${number}`,
			`Run ${number}`,
			`${number} of ${number + 3}`,
			`${number}/${number + 2}`,
			`${number}x + ${number}`,
			`at ${number}:30`,
			`b = ${number}.5`,
			`(${number} m)`,
			`part ${number}`
		]);
	},
	placing: (random) =>
		random.chance(0.25)
			? null
			: somePlacing(random, { left: [14, 40], pitch: [7.5, 10.5], header: [10, 22], leftCorner: 0.35 }),
	corrected: 0.04,
	brief: 0.15
};

/** Habits that nothing is fitted on: what the reader makes of a class that does otherwise. */
export const OTHER: Habits = {
	labels: [
		'Ex. #',
		'Task #',
		'Problem #',
		'[#]',
		'Answer #',
		'# -',
		'Exercise #',
		'#.)',
		'Q #',
		'Qn #',
		'TASK #'
	],
	parts: ['#-~', '#. ~)', 'Ex. #~', 'Task # ~)', '#) ~)', 'Problem # (~)', '# ~.', 'Q #~'],
	partsAlone: ['~)', '[~]', '~:', '(~)'],
	numbers: ['pg #', '(#)', 'Page #/N', '[#]', 'sheet #', '# / N', 'p # of N', 'pg. #', 'P. #', '#.'],
	names: ['# ~', '~ #', 'by # ~', 'Student: # ~', '# ~, HY-2', 'N: # ~'],
	before: [0, 0, 3, 7],
	header(random) {
		const day = `${random.whole(1, 28)}`;
		const lines = [
			() => `Worksheet ${random.whole(1, 9)}`,
			() => `HY-2 sheet ${random.whole(1, 9)}`,
			() => `Homework ${random.whole(1, 12)}: The Sluice`,
			() => `${day} Nov 2026`,
			() => `${day}.11.26`,
			() => `Group ${random.whole(1, 9)}`,
			() => `Class ${random.whole(7, 12)}${random.pick([...'abc'])}`,
			() => `No. ${random.whole(10_000, 99_999)}`,
			() => `Set ${random.whole(1, 9)}, Unit ${random.whole(1, 9)}`
		];
		if (random.chance(0.25)) return [];
		const one = { text: random.pick(lines)(), at: random.pick([0.15, 0.4]) };
		return random.chance(0.4) ? [one, { text: random.pick(lines)(), at: 0.66 }] : [one];
	},
	aside(random) {
		const kind = random.next();
		if (kind < 0.06) {
			const sign = random.pick(['#.', '#)', '(#)', '-', 'Step #:', '(i)']);
			const items = ['rod to bed', 'count turns', 'read time', 'wade on'].slice(0, random.whole(2, 4));
			const lines = items.map((item, i) => `${sign.replace('#', String(i + 1))} ${item}`);
			return { block: { kind: 'text', lines, indent: random.between(5, 14) }, lines: lines.length };
		}
		if (kind < 0.13) {
			const value = () => `${random.whole(1, 99)}.${random.whole(1, 9)}`;
			const block = {
				kind: 'formula',
				before: random.pick(['v =', '2 v =', 'so Q =', '=', 'h1 =']),
				over: random.pick(['2 g h', 'v t', `${value()} m`, 'A1 + A2']),
				under: random.chance(0.6) ? random.pick(['t', `${value()} s`, '2', 'b h']) : null,
				behind: random.pick(['', `= ${value()}`, `(${random.whole(1, 9)})`])
			} as const;
			return { block, lines: 2 };
		}
		return null;
	},
	likeLabel(random) {
		return random.pick([
			`Fig. ${random.whole(1, 9)}`,
			`Table ${random.whole(1, 5)}`,
			`Step ${random.whole(1, 5)}`,
			`see ${random.whole(1, 7)}${random.pick([...'abc'])}`,
			`Eq. (${random.whole(1, 9)})`,
			`${random.whole(2, 9)} x`,
			`a = ${random.whole(1, 9)}.${random.whole(1, 99)}`,
			`${random.whole(1, 9)}/${random.whole(2, 9)}`,
			`x${random.whole(1, 4)}`,
			`${random.whole(1, 12)}:${random.whole(10, 59)}`,
			`from ${random.whole(1, 7)}`,
			`${random.whole(1, 9)} + ${random.whole(1, 9)}`
		]);
	},
	placing: () => null,
	corrected: 0.07,
	brief: 0
};

/** The same habits on pages that are laid out otherwise; nothing is fitted on them either. */
export const ELSEWHERE: Habits = {
	...OTHER,
	placing: (random) =>
		somePlacing(random, { left: [11, 46], pitch: [7, 11.5], header: [8, 26], leftCorner: 0.25 })
};

/** The kinds of habits beside the usual ones, by name. */
export const HABITS = { wider: WIDER, other: OTHER, elsewhere: ELSEWHERE } as const;
export type HabitsName = keyof typeof HABITS;
