import { plural, type Finding, type Fix } from '../rules/finding';
import { RULE_TITLES } from './check';

/** What a person should do next, in a sentence, with the button that does it or leads there. */
export interface NextStep {
	readonly text: string;
	readonly fix: Fix | null;
}

const HAND_IN: Fix = { label: 'Go to hand in', task: 'hand-in' };

/**
 * @param findings what every rule says
 * @param pages on the strip
 * @param stands of this very version: handed in, or given back after that
 */
export function nextStep(
	findings: readonly Finding[],
	pages: number,
	stands: 'handed-in' | 'given-back' | null
): NextStep {
	if (stands === 'given-back') {
		return { text: 'Mend what it was given back for, then hand in again.', fix: null };
	}
	if (stands === 'handed-in') return { text: 'This is handed in, and nothing has changed since.', fix: null };
	if (pages === 0) {
		return { text: 'Begin with your pages.', fix: { label: 'Bring in pages', task: 'gather' } };
	}
	const of = (level: Finding['level']) => findings.filter((f) => f.level === level);
	const [blocks, looks, open] = [of('blocks'), of('look'), of('open')];
	const begin = ({ rule }: Finding) => `Begin with “${RULE_TITLES[rule]}”.`;
	if (blocks.length > 0) {
		const first = blocks.find((f) => f.fix) ?? blocks[0]!;
		const count = blocks.length === 1 ? 'One thing blocks.' : `${blocks.length} things block.`;
		return { text: blocks.length === 1 ? count : `${count} ${begin(first)}`, fix: first.fix ?? null };
	}
	if (looks.length > 0) {
		const first = looks.find((f) => f.fix) ?? looks[0]!;
		const count = looks.length === 1 ? 'One thing' : `${looks.length} things`;
		return { text: `Nothing blocks. ${count} to look at.`, fix: first.fix ?? HAND_IN };
	}
	if (open.length > 0) {
		return { text: `Nothing blocks so far. ${plural(open.length, 'rule')} not known yet.`, fix: null };
	}
	return { text: 'Everything is clear.', fix: HAND_IN };
}
