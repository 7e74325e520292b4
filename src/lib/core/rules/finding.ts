import type { Change } from '../packet/change';
import type { Packet } from '../packet/packet';
import type { PageRecord } from '../page/pageRecord';
import type { RuleName, RuleSheet } from './ruleSheet';

/** Where in the workspace something is done. */
export const TASKS = ['gather', 'square', 'tone', 'write', 'order', 'map', 'name', 'hand-in'] as const;
export type Task = (typeof TASKS)[number];

/** One way to mend what a finding says: go to a place, or do it at once. */
export interface Fix {
	readonly label: string;
	readonly task: Task;
	readonly page?: string;
	/** Done in one click; otherwise the click only leads to the place. */
	readonly change?: Change;
}

/** What a rule says of a packet, with its evidence. */
export interface Finding {
	readonly rule: RuleName;
	/** `open`: not known yet; only what was checked is clear. */
	readonly level: 'clear' | 'look' | 'blocks' | 'open';
	/** The evidence, as a sentence or two. */
	readonly message: string;
	/** Positions on the strip, from 1. */
	readonly pages: readonly number[];
	readonly fix?: Fix;
	/** Another way out, where the machine may be wrong. */
	readonly otherwise?: Fix;
}

/** Everything a rule may look at, but for the clock. */
export interface PagesInput {
	readonly sheet: RuleSheet;
	readonly packet: Packet;
	readonly evidence: Readonly<Record<string, PageRecord | undefined>>;
	readonly person: { readonly given: string; readonly family: string };
	/** False where reading is switched off: pages will never have been read. */
	readonly reads?: boolean;
	/** What is made of it, where that is not what the rule sheet asks for. */
	readonly fileType?: 'pdf' | 'zip';
}

export interface CheckInput extends PagesInput {
	/** Milliseconds since 1970. */
	readonly now: number;
}

/** "page 3", "pages 2 and 5", "pages 1, 2 and 4". */
export function namePages(positions: readonly number[]): string {
	return `${positions.length === 1 ? 'page' : 'pages'} ${list(positions.map(String))}`;
}

/** Of more than this, only the first ones are named. */
const MOST_NAMED = 12;

/** "a", "a and b", "a, b and c"; of very many "a, b, c and 90 more". */
export function list(items: readonly string[]): string {
	if (items.length > MOST_NAMED) {
		const named = items.slice(0, MOST_NAMED - 2);
		return `${named.join(', ')} and ${items.length - named.length} more`;
	}
	if (items.length < 2) return items.join('');
	return `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`;
}

export function plural(count: number, one: string, many = `${one}s`): string {
	return `${count} ${count === 1 ? one : many}`;
}

/** "Pages 2 and 5". */
export function capital(text: string): string {
	return text.charAt(0).toUpperCase() + text.slice(1);
}
