import { answerables } from '../assignment/question';
import { formatDue } from '../rules/dueTime';
import { list, plural } from '../rules/finding';
import { formatBytes } from '../rules/formatBytes';
import { toneWords } from '../rules/rule/tone';
import type { Proposal } from './proposal';

/** What a proposal says, in words: what it is about, and its value. */
export function describeProposal({ kind, value }: Proposal): readonly [about: string, says: string] {
	switch (kind) {
		case 'title':
			return ['Title', value];
		case 'course':
			return ['Course', value];
		case 'due':
			return ['Due', formatDue(value)];
		case 'grace':
			return ['Still taken late', plural(value, 'minute')];
		case 'pages': {
			const { min, max } = value;
			if (min === max) return ['Pages', `exactly ${max}`];
			if (min !== undefined && max !== undefined) return ['Pages', `${min} to ${max}`];
			return ['Pages', max === undefined ? `at least ${min}` : `at most ${max}`];
		}
		case 'paper':
			return ['Paper', value];
		case 'tone':
			return ['Tone', value.map(toneWords).join(' or ')];
		case 'namePattern':
			return ['Name of the file', value];
		case 'type':
			return ['File', value === 'pdf' ? 'one PDF' : 'page images in a ZIP'];
		case 'maxBytes':
			return ['Size of the file', `at most ${formatBytes(value)}`];
		case 'questions': {
			const all = answerables(value);
			const marks = all.reduce((sum, q) => sum + (q.marks ?? 0), 0);
			return ['Questions', `${list(all.map((q) => q.id))}${marks > 0 ? `, ${marks} marks` : ''}`];
		}
		case 'newPage':
			return ['On a new page', value === 'every' ? 'every question' : `question ${list(value)}`];
	}
}
