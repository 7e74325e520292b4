import { en, type ParsedResult } from 'chrono-node';
import { formatOffset, offsetAt, offsetOfLocal } from '../rules/dueTime';
import { proposal, type ProposalOf, type Span } from './proposal';
import { matchesIn, NUMBER, numberOf, type Sentence } from './words';

/** Where and when an instruction is read. */
export interface Reader {
	/** Milliseconds since 1970. */
	readonly now: number;
	/** IANA name: "Europe/Amsterdam". */
	readonly timeZone: string;
	/** Whether 4/12 is in December. */
	readonly dayFirst: boolean;
}

/** Says that a moment ends something. */
const ENDS =
	/\b(?:due|deadline|by|before|until|till|no later than|at the latest|hand(?:ed)? in|turn(?:ed)? in|submit(?:ted)?|return|send|closes|closing|collected)\b/i;
/** Says that a moment is of something else. */
const OTHER =
	/\b(?:posted|released|published|handed out|returned|discussed|solutions?|exam|test on|office hours|lecture on|field trip|meet|class on|opens?|begins?|starts?|available)\b/i;

interface Moment {
	readonly date: ParsedResult;
	/** The time of day, where it was read by itself. */
	readonly time: ParsedResult | null;
	readonly span: Span;
	readonly score: number;
	readonly text: string;
	readonly sentence: string;
}

/** When it is due. */
export function dueIn(sentences: readonly Sentence[], reader: Reader): ProposalOf<'due'> | null {
	const found = sentences.flatMap((sentence) => momentsIn(sentence, reader));
	const [best, second] = found.filter((m) => m.score > 0).sort((a, b) => b.score - a.score);
	if (!best) return null;
	const { date, time } = best;
	const clock = time ?? date;
	const hasTime = clock.start.isCertain('hour');
	const isMidnight = /\bmidnight\b/i.test(best.text);
	const at = {
		year: date.start.get('year')!,
		month: date.start.get('month')!,
		day: date.start.get('day')!,
		// Without a time of day: the end of that day, and the person is asked.
		hour: hasTime && !isMidnight ? clock.start.get('hour')! : 23,
		minute: hasTime && !isMidnight ? clock.start.get('minute')! : 59
	};
	const zoned = clock.start.isCertain('timezoneOffset') ? clock.start.get('timezoneOffset')! : null;
	const local = localText(at);
	const value = `${local}:00${formatOffset(zoned ?? offsetOfLocal(local, reader.timeZone))}`;
	const isAmbiguous = /\b(0?[1-9]|1[0-2])\/(0?[1-9]|1[0-2])\b/.test(best.text) && !isSameTwice(best.text);
	// A day of a week of the term is not one of the calendar.
	const isOfTerm = /\bweek \d/i.test(best.sentence);
	const isOther = second !== undefined && second.score >= best.score && !isSameDay(second.date, date);
	const isPast = Date.parse(value) < reader.now;
	return proposal(
		'due',
		value,
		[best.span],
		hasTime && !isMidnight && !isAmbiguous && !isOfTerm && !isOther && !isPast
	);
}

function momentsIn(sentence: Sentence, { now, timeZone, dayFirst }: Reader): Moment[] {
	// "17h00", "14:00 h" and "15.12.2026" as they are written elsewhere; every character stays where it was.
	const text = sentence.text
		.replace(/\b(\d{1,2})h(\d\d)\b/g, '$1:$2')
		.replace(/\b(\d{1,2})\.(\d{1,2})\.(20\d\d)\b/g, (_, d: string, m: string, y: string) =>
			dayFirst ? `${d}/${m}/${y}` : `${m}/${d}/${y}`
		)
		.replace(/\(UTC ?([+-]\d{1,2})\)/g, ' UTC$1 ');
	const reference = { instant: new Date(now), timezone: offsetAt(now, timeZone) };
	// Only for dates in digits: it would read "Dec. 10" as a month of 2010.
	const parser = dayFirst && /\b\d{1,2}\/(0?[1-9]|1[0-2])\b/.test(text) ? en.GB : en.casual;
	const results = parser.parse(text, reference, { forwardDate: true });
	const isDate = (r: ParsedResult) => r.start.isCertain('day') || r.start.isCertain('weekday');
	const isTime = (r: ParsedResult) => r.start.isCertain('hour');
	return results.flatMap((date, i): Moment[] => {
		if (!isDate(date)) return [];
		// "Thurs., Dec. 10": the day of the week belongs to the date behind it.
		const next = results[i + 1];
		if (next && !date.start.isCertain('day') && next.start.isCertain('day') && gap(date, next) < 4) return [];
		let time: ParsedResult | null = null;
		let [from, to] = [date.index, date.index + date.text.length];
		if (!isTime(date)) {
			// "tomorrow before 6 pm", "by 17:00 on Friday"
			const beside = [results[i + 1], results[i - 1]].find(
				(r) => r && isTime(r) && !isDate(r) && gap(r, date) < 16
			);
			if (beside) {
				time = beside;
				from = Math.min(from, beside.index);
				to = Math.max(to, beside.index + beside.text.length);
			}
		}
		const before = text.slice(Math.max(0, from - 70), from);
		const after = text.slice(to, to + 30);
		const score =
			(ENDS.test(before) ? 3 : 0) +
			(/^.{0,4}(?:at the latest|deadline)/i.test(after) ? 3 : 0) +
			(ENDS.test(text) ? 1 : 0) +
			(isTime(time ?? date) ? 1 : 0) -
			(OTHER.test(lastClause(before)) ? 6 : 0);
		const span = { from: sentence.from + from, to: sentence.from + to };
		return [
			{
				date,
				time,
				span,
				score: score - (ENDS.test(text) ? 0 : 2),
				text: text.slice(from, to),
				sentence: text
			}
		];
	});
}

/** What stands since the last word that ends something, or the last bracket. */
function lastClause(text: string): string {
	return text.split(/[,(;:]|\b(?:due|deadline|by|before|until)\b/i).at(-1)!;
}

function gap(a: ParsedResult, b: ParsedResult): number {
	const [first, last] = a.index < b.index ? [a, b] : [b, a];
	return last.index - first.index - first.text.length;
}

function isSameDay(a: ParsedResult, b: ParsedResult): boolean {
	return (['year', 'month', 'day'] as const).every((part) => a.start.get(part) === b.start.get(part));
}

function isSameTwice(text: string): boolean {
	const [, a, b] = /\b(\d{1,2})\/(\d{1,2})\b/.exec(text) ?? [];
	return Number(a) === Number(b);
}

interface Wall {
	readonly year: number;
	readonly month: number;
	readonly day: number;
	readonly hour: number;
	readonly minute: number;
}

/** "2026-12-04T18:00" */
function localText({ year, month, day, hour, minute }: Wall): string {
	const two = (n: number) => String(n).padStart(2, '0');
	return `${year}-${two(month)}-${two(day)}T${two(hour)}:${two(minute)}`;
}

/** Minutes after the due time in which a packet is still taken. */
export function graceIn(sentences: readonly Sentence[]): ProposalOf<'grace'> | null {
	const pattern = new RegExp(`\\b(${NUMBER})[- ](minutes?|min|hours?|h)\\b`, 'giu');
	for (const sentence of sentences) {
		if (!/\b(?:grace|late(?!st)|after the (?:deadline|due))/i.test(sentence.text)) continue;
		for (const { match, span } of matchesIn(sentence, pattern)) {
			const each = /^h/i.test(match[2]!) ? 60 : 1;
			return proposal('grace', each * numberOf(match[1]!), [span], true);
		}
	}
	return null;
}
