import { describeReasons } from '../../legibility/describe';
import { VERDICTS } from '../../legibility/legibility';
import { capital, namePages, type PagesInput, type Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** No page reads worse than the bar. A page that nobody could grade is always worth a look. */
export function legibility({ sheet, packet, evidence }: PagesInput): Finding {
	const bar = VERDICTS.indexOf(sheet.legibility ?? 'doubtful');
	const waiting: number[] = [];
	const broken: number[] = [];
	const weak: { position: number; page: string; score: number }[] = [];
	const doubtful: number[] = [];
	packet.strip.forEach((page, i) => {
		const facts = evidence[page]?.prepared;
		if (!facts) (evidence[page]?.problem ? broken : waiting).push(i + 1);
		else if (!facts.blank && VERDICTS.indexOf(facts.legibility.verdict) < bar) {
			weak.push({ position: i + 1, page, score: facts.legibility.score });
		} else if (!facts.blank && facts.legibility.verdict === 'doubtful') doubtful.push(i + 1);
	});
	if (broken.length > 0) {
		const which = broken.length === 1 ? 'it' : 'them';
		return {
			rule: 'legibility',
			// No file can be made with it.
			level: 'blocks',
			message: `${capital(namePages(broken))} cannot be prepared. Bring ${which} in again, or set ${which} aside.`,
			pages: broken,
			fix: { label: `Show page ${broken[0]!}`, task: 'square', page: packet.strip[broken[0]! - 1]! }
		};
	}
	if (weak.length > 0) {
		const worst = [...weak].sort((a, b) => a.score - b.score)[0]!;
		const facts = evidence[worst.page]!.prepared!;
		const positions = weak.map((w) => w.position);
		return {
			rule: 'legibility',
			level: levelOf(sheet, 'legibility'),
			message:
				`${capital(namePages(positions))} ${weak.length === 1 ? 'reads' : 'read'} badly. ` +
				`Page ${worst.position}: ${describeReasons(facts.legibility)}`,
			pages: positions,
			fix: { label: `Show page ${worst.position}`, task: 'tone', page: worst.page }
		};
	}
	if (waiting.length > 0) {
		return {
			rule: 'legibility',
			level: 'open',
			message: `${capital(namePages(waiting))} ${waiting.length === 1 ? 'is' : 'are'} still being prepared.`,
			pages: waiting
		};
	}
	const message =
		doubtful.length === 0
			? 'Every page reads well enough'
			: `Well enough for this assignment; ${namePages(doubtful)} could read better`;
	return { rule: 'legibility', level: 'clear', message, pages: [] };
}
