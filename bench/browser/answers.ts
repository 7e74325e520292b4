import type { Question } from '../../src/lib/core/assignment/question';
import type { Random } from '../../demo/generator/random';

/** What is written below each other: words, a formula by itself, a table, a curve. */
export type Block =
	| { readonly kind: 'words' | 'formula'; readonly text: string }
	| { readonly kind: 'table'; readonly rows: readonly (readonly string[])[] }
	| { readonly kind: 'curve'; readonly heights: readonly number[] };

/** A label and what is answered under it. */
export interface Answer {
	readonly label: string;
	/** What it stands for: "2a". */
	readonly question: string;
	readonly body: readonly Block[];
}

/** How somebody writes labels. */
export interface LabelStyle {
	readonly ofQuestion: (question: string) => string;
	/** Of a part; with its question, or by itself. */
	readonly ofPart: (question: string, part: string) => string;
	/** Whether the label of a part says its question. */
	readonly full?: true;
	/** It stands on a line by itself. */
	readonly heading?: true;
	readonly ringed?: true;
}

export const LABEL_STYLES: readonly LabelStyle[] = [
	{ ofQuestion: (q) => `${q}.`, ofPart: (_, p) => `${p})` },
	{ ofQuestion: (q) => `${q})`, ofPart: (_, p) => `${p})` },
	{ ofQuestion: (q) => `(${q})`, ofPart: (_, p) => `(${p})` },
	{ ofQuestion: (q) => `Q${q}`, ofPart: (_, p) => `(${p})` },
	{ ofQuestion: (q) => `Q${q}`, ofPart: (q, p) => `Q${q}${p}`, full: true },
	{ ofQuestion: (q) => `Question ${q}`, ofPart: (_, p) => `(${p})`, heading: true },
	{ ofQuestion: (q) => q, ofPart: (q, p) => `${q}${p})`, full: true },
	{ ofQuestion: (q) => `${q}.`, ofPart: (q, p) => `${q}.${p}`, full: true },
	{ ofQuestion: (q) => `Problem ${q}`, ofPart: (_, p) => `${p})`, heading: true },
	{ ofQuestion: (q) => `Ex. ${q}`, ofPart: (_, p) => `${p}.`, heading: true },
	{ ofQuestion: (q) => q, ofPart: (_, p) => p, ringed: true },
	{ ofQuestion: (q) => `No. ${q}`, ofPart: (_, p) => `(${p})` },
	{ ofQuestion: (q) => `${q}.)`, ofPart: (_, p) => `${p}.)` },
	{ ofQuestion: (q) => `Question ${q}`, ofPart: (q, p) => `Question ${q}${p}`, full: true, heading: true },
	{ ofQuestion: (q) => `${q}:`, ofPart: (q, p) => `${q}${p}:`, full: true },
	{ ofQuestion: (q) => `${q} -`, ofPart: (q, p) => `${q}${p} -`, full: true }
];

const WHAT = [
	'The beam',
	'A copper rod',
	'The pendulum',
	'Each sample',
	'The trolley',
	'Our solution',
	'The second mirror',
	'This spring',
	'The water level',
	'The lower plate',
	'A falling mass'
];
const DOES = [
	'moves',
	'was measured',
	'turns',
	'loses heat',
	'stays still',
	'expands',
	'gains speed',
	'bends'
];
const WHY = [
	'because the force is balanced',
	'after about a minute',
	'when the switch is closed',
	'so the two values agree',
	'at the same rate as before',
	'with an error of two percent',
	'as the graph shows',
	'so energy is conserved',
	'in the first half of the run',
	'before it was heated'
];

function sentence(random: Random): string {
	const said = `${random.pick(WHAT)} ${random.pick(DOES)} ${random.pick(WHY)}`;
	if (random.chance(0.12)) {
		const value = random.between(1, 90).toFixed(random.whole(1, 2));
		return `${said}, therefore it is ${value} ${random.pick(['cm', 'kg', 'N', 's', 'J'])}.`;
	}
	return random.chance(0.08) ? `${said} (see page ${random.whole(1, 4)}).` : `${said}.`;
}

function formula(random: Random): string {
	const value = (digits: number) => random.between(1, 90).toFixed(digits);
	return random.pick([
		`x = ${random.whole(2, 40)} / ${random.whole(2, 9)} = ${value(2)}`,
		`F = m a = ${random.whole(2, 9)} × ${value(1)}`,
		`${value(2)} ${random.pick(['cm', 'kg', 'g'])} ± 0.${random.whole(1, 9)}`,
		'v² = u² + 2as',
		`${random.whole(2, 9)}x + ${random.whole(1, 9)} = ${random.whole(10, 60)}`,
		`= ${value(3)}`,
		`${random.whole(10, 28)} May: ${value(1)} °C`
	]);
}

function block(random: Random): Block {
	const chance = random.next();
	if (chance < 0.62) {
		const sentences = Array.from({ length: random.whole(1, 4) }, () => sentence(random));
		return { kind: 'words', text: sentences.join(' ') };
	}
	if (chance < 0.85) return { kind: 'formula', text: formula(random) };
	if (chance < 0.93) {
		const cell = () => random.between(0, 99).toFixed(random.whole(0, 2));
		const rows = Array.from({ length: random.whole(2, 4) }, () => [cell(), cell(), cell()]);
		return { kind: 'table', rows };
	}
	return { kind: 'curve', heights: Array.from({ length: 18 }, () => random.next()) };
}

/** An assignment's questions, three to six, more than half of them with parts. */
export function someQuestions(random: Random): Question[] {
	return Array.from({ length: random.whole(3, 6) }, (_, i) => {
		const label = String(i + 1);
		if (!random.chance(0.55)) return { label };
		return { label, parts: [...'abcd'].slice(0, random.whole(2, 4)).map((part) => ({ label: part })) };
	});
}

/** Answers to all of an assignment, in order. */
export function someAnswers(random: Random, questions: readonly Question[], style: LabelStyle): Answer[] {
	const body = () => Array.from({ length: random.whole(1, 4) }, () => block(random));
	return questions.flatMap(({ label: q, parts = [] }): Answer[] => {
		if (parts.length === 0) return [{ label: style.ofQuestion(q), question: q, body: body() }];
		const joined = !style.full && !style.heading && random.chance(0.5);
		const first: Answer[] =
			style.full || joined
				? []
				: [
						{
							label: style.ofQuestion(q),
							question: q,
							body: random.chance(0.4) ? [{ kind: 'words', text: sentence(random) }] : []
						}
					];
		const answers = parts.map(({ label: p }, i): Answer => {
			const part = style.ofPart(q, p);
			const label = joined && i === 0 ? `${style.ofQuestion(q)} ${part}` : part;
			return { label, question: q + p, body: body() };
		});
		return [...first, ...answers];
	});
}
