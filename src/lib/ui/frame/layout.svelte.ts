import { browser } from '$app/environment';
import type { Task } from '$lib/core/rules/finding';

/** Heights of the strip's pictures in pixels: least, most, where pages are put in order, and anywhere else. */
export const STRIP = { least: 40, most: 280, order: 118, low: 56 } as const;
const KEY = 'membrana-layout';

interface Kept {
	/** Of the strip, where pages are put in order and elsewhere. */
	order: number;
	low: number;
	/** The rule sheet is folded away. */
	folded: boolean;
}

/** How a person has arranged the workspace; remembered in this browser. */
class Layout {
	#kept = $state<Kept>(read());
	/** Nothing is shown but the page. */
	pageOnly = $state(false);

	stripHeight(task: Task): number {
		return task === 'order' ? this.#kept.order : this.#kept.low;
	}

	setStripHeight(task: Task, height: number): void {
		const held = Math.round(Math.min(STRIP.most, Math.max(STRIP.least, height)));
		this.#keep(task === 'order' ? { order: held } : { low: held });
	}

	resetStripHeight(task: Task): void {
		this.#keep(task === 'order' ? { order: STRIP.order } : { low: STRIP.low });
	}

	get folded(): boolean {
		return this.#kept.folded;
	}
	set folded(folded: boolean) {
		this.#keep({ folded });
	}

	#keep(part: Partial<Kept>): void {
		this.#kept = { ...this.#kept, ...part };
		try {
			localStorage.setItem(KEY, JSON.stringify(this.#kept));
		} catch {
			// Without a place to keep it, it holds until the page is left.
		}
	}
}

function read(): Kept {
	const usual: Kept = { order: STRIP.order, low: STRIP.low, folded: false };
	if (!browser) return usual;
	try {
		const { order, low, folded } = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Kept>;
		const height = (value: unknown, or: number) =>
			typeof value === 'number' && value >= STRIP.least && value <= STRIP.most ? value : or;
		return {
			order: height(order, usual.order),
			low: height(low, usual.low),
			folded: folded === true
		};
	} catch {
		return usual;
	}
}

export const layout = new Layout();
