import { plural, type Finding, type Fix } from '../rules/finding';
import { RULE_TITLES } from './check';

/** What a person should do next, in a sentence, with the button that does it or leads there. */
export interface NextStep {
	readonly text: string;
	readonly fix: Fix | null;
}

const HAND_IN: Fix = { label: 'Go to hand in', task: 'hand-in' };

/** How far a packet has come, beside what the rules say of it. */
export interface Progress {
	/** On the strip. */
	readonly pages: number;
	/** Of these, how many are being prepared or read just now. */
	readonly unread: number;
	/** Of this very version: handed in, or given back after that. */
	readonly stands: 'handed-in' | 'given-back' | null;
}

/** What is found by reading: nobody needs to do by hand what may be proposed in a moment. */
const READ: readonly Finding['rule'][] = ['allAnswered', 'questionOrder', 'newPage', 'pageNumbers'];

/** @param findings what every rule says */
export function nextStep(findings: readonly Finding[], { pages, unread, stands }: Progress): NextStep {
	if (stands === 'given-back') {
		return { text: 'Mend what it was given back for, then hand in again.', fix: null };
	}
	if (stands === 'handed-in') return { text: 'This is handed in, and nothing has changed since.', fix: null };
	if (pages === 0) {
		return { text: 'Begin with your pages.', fix: { label: 'Bring in pages', task: 'gather' } };
	}
	const of = (level: Finding['level']) => findings.filter((f) => f.level === level);
	const isToWaitFor = ({ rule, level }: Finding) => unread > 0 && level !== 'clear' && READ.includes(rule);
	if (findings.some(isToWaitFor) && !of('blocks').some((f) => !READ.includes(f.rule))) {
		const read = `${pages - unread} of ${plural(pages, 'page')} read so far.`;
		return { text: `${read} Then it is shown where each answer begins.`, fix: null };
	}
	const [blocks, looks, open] = [of('blocks'), of('look'), of('open')];
	const begin = ({ rule }: Finding) => `Begin with “${RULE_TITLES[rule]}”.`;
	if (blocks.length > 0) {
		const first = blocks.find((f) => f.fix) ?? blocks[0]!;
		const count = blocks.length === 1 ? 'One thing blocks.' : `${blocks.length} things block.`;
		return { text: blocks.length === 1 ? count : `${count} ${begin(first)}`, fix: first.fix ?? null };
	}
	if (looks.length > 0) {
		const first = looks.find((f) => f.fix) ?? looks[0]!;
		const count =
			looks.length === 1
				? `One thing to look at: ${RULE_TITLES[first.rule].toLowerCase()}.`
				: `${looks.length} things to look at. ${begin(first)}`;
		return { text: `Nothing blocks. ${count}`, fix: first.fix ?? HAND_IN };
	}
	if (open.length > 0) {
		return { text: `Nothing blocks so far. ${plural(open.length, 'rule')} not known yet.`, fix: null };
	}
	return { text: 'Everything is clear.', fix: HAND_IN };
}
