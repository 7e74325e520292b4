import type { Random } from '../demo/generator/random';

/** What is written at the start of lines, in margins and in headers; and what stands there that is no label. */
export interface Writing {
	readonly text: string;
	/** Whether somebody may frame or underline it. */
	readonly label: boolean;
}

const STYLES = [
	'#', '#', '#.', '#.', '#)', '#)', '(#)', '#:', '#.)', 'Q#', 'Q#', 'Q #', 'Q.#', 'Q. #', 'Q#.', 'Q#)', 'Q#:', 'q#', 'Qu #', 'Qu. #', 'Qn #',
	'Question #', 'question #', 'Question #:', 'QUESTION #', 'Quest. #', 'No #', 'No. #', 'Nr #', 'Nr. #', 'Ex #', 'Ex. #',
	'Exercise #', 'Task #', 'Problem #', 'Prob #', 'Answer #', 'Ans #', 'Ans. #', 'Ans: #', '# #', '[#]', 'Part #'
].filter((s) => s !== '# #'); // prettier-ignore
const PART_STYLES = [
	'#~', '#~', '#~)', '#~)', '#(~)', '# (~)', '# (~)', '#.~', '#.~)', '# ~)', '# ~', '#-~', '#~.', '#) ~)', 'Q#~', 'Q#(~)', 'Q# (~)', 'Q#~)',
	'Q.#~', 'Question # (~)', 'Question #~', 'Ex #~', 'No #~', 'Task # (~)', 'Problem #~)', '#. (~)', '#. ~)'
]; // prettier-ignore
const ALONE_STYLES = ['(~)', '(~)', '~)', '~)', '~.', '~', '~:', '[~]', 'Part ~', 'part (~)', 'Part (~)'];
const NUMBER_STYLES = [
	'p. #/N', 'p.#/N', 'p #/N', 'p. # / N', '# of N', '#of N', 'page #', 'Page #', 'page # of N', 'Page # of N', '-#-', '- # -', '-# -', '#/N', '# / N', '#/N',
	'p#', 'p #', 'p. #', 'p.#', 'P. #', 'P#', 'pg #', 'pg. #', 'pg #/N', '(#)', '(#/N)', '#', '#.', 'S. #', 'sheet # of N'
]; // prettier-ignore
const WORDS = (
	'the a of and we then so with from which is was at this for after near both over as it until mean error current meter velocity depth vertical strip width ' +
	'tape rod counter turns seconds reading weir crest head notch plate pond gauge level discharge coefficient approach rain funnel bottle storm cloud wind ' +
	'fence square root percent spread repeat scatter bias sample estimate bound interval peat reed bank mud silt bed channel ditch bend shade weed clearing ' +
	'rise peak recession lag hydrograph baseflow falling limb separation curve salt tracer dilution probe mixing length plateau background conductivity ' +
	'because therefore hence since let if when total answer result figure table graph area volume mass force energy speed time value ratio number given ' +
	'first second third next also but not by on in to are has have will can between below above left right show that find prove using equation line point ' +
	'quickly judge zinc fox lazy dog jump vex queue wizard major box quiz haze kept yield gym fjord'
).split(' ');
const UNITS = ['m', 'cm', 'mm', 'm/s', 's', 'kg', '%', 'l/s', 'm3', 'h', 'km', 'N', 'J', 'W'];
const CONSONANTS = 'bcdfghjklmnprstvwz'.split('');
const VOWELS = ['a', 'e', 'i', 'o', 'u', 'y', 'ai', 'ee', 'ou'];
const PARTS = 'abcdefgh'.split('');
const ROMAN = ['i', 'ii', 'iii', 'iv', 'v', 'vi'];
const RANDOM = '0123456789abcdefghijklmnopqrstuvwxyzABDEFGHKLMNPQRSTUW.,:;-()/#=+?!&%';

/** Something to write, by chance. */
export function someWriting(random: Random): Writing {
	const r = random.next();
	if (r < 0.36) {
		const text = someLabel(random);
		// Written into the line, with the answer going on right behind it.
		if (random.chance(0.3)) return { text: `${text} ${words(random, random.whole(1, 3))}`, label: false };
		return { text, label: true };
	}
	if (r < 0.52) return { text: somePageNumber(random), label: random.chance(0.2) };
	if (r < 0.62) return { text: nameLine(random), label: false };
	if (r < 0.66) return { text: characters(random), label: false };
	if (r < 0.82) return { text: words(random, random.whole(1, 4)), label: false };
	return { text: noLabel(random), label: false };
}

export function someLabel(random: Random): string {
	const n = String(random.chance(0.75) ? random.whole(1, 9) : random.whole(10, 20));
	const part = random.chance(0.85) ? random.pick(PARTS) : random.pick(ROMAN);
	const shown = random.chance(0.12) ? part.toUpperCase() : part;
	const r = random.next();
	const style = random.pick(r < 0.55 ? STYLES : r < 0.8 ? PART_STYLES : ALONE_STYLES);
	return style.replace('#', n).replace('~', shown);
}

export function somePageNumber(random: Random): string {
	const most = random.chance(0.8) ? random.whole(2, 12) : random.whole(2, 40);
	return random
		.pick(NUMBER_STYLES)
		.replace('#', String(random.whole(1, most)))
		.replace('N', String(most));
}

/** Starts of lines that look like labels, and are none. */
export function noLabel(random: Random): string {
	const whole = () => String(random.whole(0, random.pick([9, 40, 999])));
	const decimal = () => `${random.whole(0, random.pick([9, 99]))}.${random.whole(0, random.pick([9, 99]))}`;
	const a = () => random.pick('abcdefghknpqrstuvwxyz'.split(''));
	switch (random.whole(0, 11)) {
		case 0:
			return `${decimal()} ${random.pick(UNITS)}`;
		case 1:
			return `${decimal()} ${random.pick(WORDS)}`;
		case 2:
			return `${a()} = ${decimal()}`;
		case 3:
			return `${a()} = ${whole()}${a()} + ${whole()}`;
		case 4:
			return `${whole()} ${random.pick(['+', '-', 'x', '=', '/'])} ${whole()}`;
		case 5:
			return `= ${decimal()} ${random.pick(UNITS)}`;
		case 6:
			return `${random.whole(1, 28)}.${random.whole(1, 12)}.${random.whole(19, 29)}`;
		case 7:
			return `${random.whole(1, 28)} ${random.pick(['May', 'June', 'Sept', 'Oct', 'Nov', 'March'])} 20${random.whole(19, 29)}`;
		case 8:
			return `- ${words(random, 2)}`;
		case 9:
			return decimal();
		case 10:
			return `(${a()} + ${whole()})`;
		default:
			return `${whole()} ${random.pick(WORDS)}`;
	}
}

/** A made-up name, as nobody's language has it. */
export function someName(random: Random): string {
	const syllables = (n: number) => {
		let word = '';
		for (let i = 0; i < n; i++) word += random.pick(CONSONANTS) + random.pick(VOWELS);
		if (random.chance(0.5)) word += random.pick(CONSONANTS);
		return word[0]!.toUpperCase() + word.slice(1);
	};
	return `${syllables(random.whole(1, 3))} ${syllables(random.whole(2, 4))}`;
}

export function nameLine(random: Random): string {
	const name = someName(random);
	const [given, family] = name.split(' ') as [string, string];
	return random.pick([
		name,
		name,
		`Name: ${name}`,
		`${family}, ${given}`,
		`${given[0]}. ${family}`,
		given,
		family
	]);
}

export function words(random: Random, count: number): string {
	const some = Array.from({ length: count }, () => random.pick(WORDS));
	if (random.chance(0.5)) some[0] = some[0]![0]!.toUpperCase() + some[0]!.slice(1);
	const end = random.chance(0.15) ? random.pick(['.', ',', ':', '?']) : '';
	return some.join(' ') + end;
}

function characters(random: Random): string {
	return Array.from({ length: random.whole(1, 5) }, () => random.pick(RANDOM.split(''))).join('');
}
