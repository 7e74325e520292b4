import type { Page } from '../../src/lib/core/packet/packet';

/** A page of a source of its own, on which nothing was set by hand. */
export const page = (id: string, change: Partial<Page> = {}): Page => ({
	id,
	source: id,
	sourcePage: 0,
	corners: null,
	turn: null,
	tone: null,
	...change
});
