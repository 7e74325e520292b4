import type { Mark } from '../marks/mark';
import type { Quadrilateral } from '../sheet/geometry';
import type { RuleName } from '../rules/ruleSheet';
import type { Turn } from '../sheet/turn';
import type { Encoding } from '../size/pageWeights';
import type { Tone } from '../tone/tone';
import type { Half } from '../sheet/fold';
import {
	EMPTY_PACKET,
	otherHalf,
	type Cut,
	type Packet,
	type Page,
	type Proofread,
	type Seam,
	type TrayReason
} from './packet';

/** Where a page is: on the strip or in the side tray, at an index from 0. */
export type Place =
	| { readonly on: 'strip'; readonly index: number }
	| { readonly on: 'tray'; readonly index: number; readonly reason: TrayReason };

/** Every edit that can be made to a packet, as plain data. */
export type Change =
	| { readonly kind: 'addPages'; readonly pages: readonly Page[]; readonly at: number }
	| { readonly kind: 'removePages'; readonly pages: readonly string[] }
	| { readonly kind: 'setCorners'; readonly page: string; readonly corners: Quadrilateral | null }
	| { readonly kind: 'setTurn'; readonly page: string; readonly turn: Turn | null }
	/** Whether lines that bend are made level. */
	| { readonly kind: 'setLevel'; readonly page: string; readonly level: boolean }
	| { readonly kind: 'setTone'; readonly page: string; readonly tone: Tone | null }
	/** How finely a page is kept in the file; null for as prepared. */
	| { readonly kind: 'setEncoding'; readonly page: string; readonly encoding: Encoding | null }
	/** Another picture takes the place of a page's own; what was set by hand for the old one is let go. */
	| {
			readonly kind: 'setPicture';
			readonly page: string;
			readonly picture: Pick<Page, 'source' | 'sourcePage' | 'half' | 'corners' | 'turn'>;
	  }
	/** A page becomes two: itself one half of its picture, and a new one behind it the other. */
	| { readonly kind: 'split'; readonly page: string; readonly first: Half; readonly second: string }
	/** Two halves become one page again; the other one goes, with its seams. */
	| { readonly kind: 'join'; readonly page: string }
	| { readonly kind: 'setProofread'; readonly page: string; readonly proofread: Proofread | null }
	/** A page's number as a person reads it: null for none, 'as-read' to let Membrana read it. */
	| { readonly kind: 'setNumber'; readonly page: string; readonly number: number | null | 'as-read' }
	/** Whether pages are said to be the packet's own, whatever name was read on them. */
	| { readonly kind: 'setOwn'; readonly pages: readonly string[]; readonly own: boolean }
	/** Something added to a page by hand, or another version of it; `at` is its place among the others. */
	| { readonly kind: 'setMark'; readonly page: string; readonly mark: Mark; readonly at?: number }
	| { readonly kind: 'removeMark'; readonly page: string; readonly mark: string }
	/** Whether what was added goes into the file as notes of their own. */
	| { readonly kind: 'setNotesApart'; readonly apart: boolean }
	| { readonly kind: 'place'; readonly page: string; readonly to: Place }
	| { readonly kind: 'setSeam'; readonly seam: Seam }
	| { readonly kind: 'removeSeam'; readonly seam: string }
	| { readonly kind: 'setAttempted'; readonly question: string; readonly attempted: boolean }
	| { readonly kind: 'setFileName'; readonly name: string | null }
	/** What the student says to the teacher about a finding; null for nothing. */
	| { readonly kind: 'setNote'; readonly rule: RuleName; readonly note: string | null }
	/** A proposal, by its key, that is not wanted, or wanted after all. */
	| { readonly kind: 'setDeclined'; readonly key: string; readonly declined: boolean }
	/** In a stack, a packet begins with a page, and is somebody's. */
	| { readonly kind: 'setCut'; readonly page: string; readonly person: string | null }
	| { readonly kind: 'removeCut'; readonly page: string }
	/** The same with all that is known of it; the server's own. */
	| { readonly kind: 'putCut'; readonly cut: Cut }
	/** What was proposed for a stack; the server's own. */
	| { readonly kind: 'setLooked'; readonly pages: readonly string[] }
	| { readonly kind: 'together'; readonly changes: readonly Change[] };

/** A change that does not fit the packet, such as one about a page that is not there. */
export class ChangeError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'ChangeError';
	}
}

/** A packet after a change, and the change that takes it back. */
export interface Applied {
	readonly packet: Packet;
	readonly inverse: Change;
}

/**
 * Applies a change. Pure: the packet given is not touched, and applying the inverse to the result
 * gives a packet equal to it.
 * @throws ChangeError when the change names a page or seam that is not there, or one that is already
 */
export function apply(packet: Packet, change: Change): Applied {
	switch (change.kind) {
		case 'addPages': {
			const pages = { ...packet.pages };
			for (const page of change.pages) {
				if (pages[page.id]) throw new ChangeError(`The page ${page.id} is in the packet already.`);
				pages[page.id] = page;
			}
			const ids = change.pages.map((p) => p.id);
			return {
				packet: { ...packet, pages, strip: insert(packet.strip, change.at, ids) },
				inverse: { kind: 'removePages', pages: ids }
			};
		}
		case 'removePages':
			return removePages(packet, change.pages);
		case 'setCorners': {
			const page = pageOf(packet, change.page);
			return edited(packet, { ...page, corners: change.corners }, { ...change, corners: page.corners });
		}
		case 'setTurn': {
			const page = pageOf(packet, change.page);
			return edited(packet, { ...page, turn: change.turn }, { ...change, turn: page.turn });
		}
		case 'setLevel': {
			const { level, ...page } = pageOf(packet, change.page);
			const now: Page = change.level ? page : { ...page, level: false };
			return edited(packet, now, { ...change, level: level ?? true });
		}
		case 'setTone': {
			const page = pageOf(packet, change.page);
			return edited(packet, { ...page, tone: change.tone }, { ...change, tone: page.tone });
		}
		case 'setEncoding': {
			const { encoding, ...page } = pageOf(packet, change.page);
			const now = change.encoding ? { ...page, encoding: change.encoding } : page;
			return edited(packet, now, { ...change, encoding: encoding ?? null });
		}
		case 'setPicture': {
			const page = pageOf(packet, change.page);
			const { source, sourcePage, half, corners, turn, marks, own, level, ...rest } = page;
			const inverse: Change = {
				...change,
				picture: { source, sourcePage, ...(half === undefined ? {} : { half }), corners, turn }
			};
			const isSame = change.picture.source === source && change.picture.sourcePage === sourcePage;
			const ofPicture = {
				...(marks ? { marks } : {}),
				...(own ? { own } : {}),
				...(level === false ? { level } : {})
			};
			if (isSame || Object.keys(ofPicture).length === 0) {
				return edited(packet, { ...rest, ...ofPicture, ...change.picture }, inverse);
			}
			// What was added lay on the old picture, and that was said to be one's own.
			const back: Change[] = [
				...(marks ?? []).map((mark): Change => ({ kind: 'setMark', page: change.page, mark })),
				...(own ? [{ kind: 'setOwn', pages: [change.page], own } as const] : []),
				...(level === false ? [{ kind: 'setLevel', page: change.page, level } as const] : [])
			];
			return edited(
				packet,
				{ ...rest, ...change.picture },
				{ kind: 'together', changes: [inverse, ...back] }
			);
		}
		case 'split':
			return split(packet, change.page, change.first, change.second);
		case 'join':
			return join(packet, change.page);
		case 'setProofread': {
			const { proofread, ...page } = pageOf(packet, change.page);
			const now = change.proofread ? { ...page, proofread: change.proofread } : page;
			return edited(packet, now, { ...change, proofread: proofread ?? null });
		}
		case 'setNumber': {
			const { number, ...page } = pageOf(packet, change.page);
			const now = change.number === 'as-read' ? page : { ...page, number: change.number };
			return edited(packet, now, { ...change, number: number === undefined ? 'as-read' : number });
		}
		case 'setOwn': {
			const before = change.pages.filter((id) => pageOf(packet, id).own === true);
			const pages = Object.fromEntries(
				change.pages.map((id): [string, Page] => {
					const { own, ...page } = packet.pages[id]!;
					if (!change.own) return [id, page];
					return [id, { ...page, own: own ?? true }];
				})
			);
			const others = change.pages.filter((id) => !before.includes(id));
			const back: Change[] = [
				...(before.length > 0 ? [{ kind: 'setOwn', pages: before, own: true } as const] : []),
				...(others.length > 0 ? [{ kind: 'setOwn', pages: others, own: false } as const] : [])
			];
			return {
				packet: { ...packet, pages: { ...packet.pages, ...pages } },
				inverse: back.length === 1 ? back[0]! : { kind: 'together', changes: back }
			};
		}
		case 'setMark': {
			const page = pageOf(packet, change.page);
			const { marks = [] } = page;
			const i = marks.findIndex((m) => m.id === change.mark.id);
			const now =
				i < 0 ? insert(marks, change.at ?? marks.length, [change.mark]) : marks.with(i, change.mark);
			return edited(
				packet,
				{ ...page, marks: now },
				i < 0
					? { kind: 'removeMark', page: page.id, mark: change.mark.id }
					: { kind: 'setMark', page: page.id, mark: marks[i]! }
			);
		}
		case 'removeMark': {
			const { marks = [], ...page } = pageOf(packet, change.page);
			const at = marks.findIndex((m) => m.id === change.mark);
			if (at < 0) throw new ChangeError('This is not on the page any more.');
			const left = marks.toSpliced(at, 1);
			return edited(
				packet,
				// No marks at all where none is left, so that equal packets are equal.
				left.length > 0 ? { ...page, marks: left } : page,
				{ kind: 'setMark', page: page.id, mark: marks[at]!, at }
			);
		}
		case 'setNotesApart': {
			const { notesApart, ...rest } = packet;
			return {
				packet: change.apart ? { ...rest, notesApart: true } : rest,
				inverse: { ...change, apart: notesApart === true }
			};
		}
		case 'place': {
			const from = placeOf(packet, change.page);
			const lifted = {
				...packet,
				strip: packet.strip.filter((p) => p !== change.page),
				tray: packet.tray.filter((t) => t.page !== change.page)
			};
			return { packet: put(lifted, change.page, change.to), inverse: { ...change, to: from } };
		}
		case 'setSeam': {
			pageOf(packet, change.seam.page);
			const i = packet.seams.findIndex((s) => s.id === change.seam.id);
			const seams = i < 0 ? [...packet.seams, change.seam] : packet.seams.with(i, change.seam);
			return {
				packet: { ...packet, seams: sortSeams(seams) },
				inverse:
					i < 0 ? { kind: 'removeSeam', seam: change.seam.id } : { kind: 'setSeam', seam: packet.seams[i]! }
			};
		}
		case 'removeSeam': {
			const seam = packet.seams.find((s) => s.id === change.seam);
			if (!seam) throw new ChangeError('This seam is not there any more.');
			return {
				packet: { ...packet, seams: packet.seams.filter((s) => s !== seam) },
				inverse: { kind: 'setSeam', seam }
			};
		}
		case 'setAttempted': {
			const before = !packet.notAttempted.includes(change.question);
			const others = packet.notAttempted.filter((q) => q !== change.question);
			const notAttempted = change.attempted ? others : [...others, change.question].sort();
			return { packet: { ...packet, notAttempted }, inverse: { ...change, attempted: before } };
		}
		case 'setFileName':
			return {
				packet: { ...packet, fileName: change.name },
				inverse: { kind: 'setFileName', name: packet.fileName }
			};
		case 'setNote': {
			const { notes = {}, ...rest } = packet;
			const { [change.rule]: before, ...others } = notes;
			const now = change.note === null ? others : { ...others, [change.rule]: change.note };
			return {
				// No notes at all where there is none, so that equal packets are equal.
				packet: Object.keys(now).length > 0 ? { ...rest, notes: now } : rest,
				inverse: { ...change, note: before ?? null }
			};
		}
		case 'setDeclined': {
			const { declined = [], ...rest } = packet;
			const others = declined.filter((key) => key !== change.key);
			const now = change.declined ? [...others, change.key].sort() : others;
			return {
				// No list at all where nothing is declined, so that equal packets are equal.
				packet: now.length > 0 ? { ...rest, declined: now } : rest,
				inverse: { ...change, declined: declined.includes(change.key) }
			};
		}
		case 'setCut': {
			const known = packet.cuts?.find((c) => c.page === change.page);
			const isTheirs = known !== undefined && known.person === change.person;
			const cut: Cut = {
				page: change.page,
				person: change.person,
				sure: 1,
				personSure: change.person === null ? 0 : 1,
				because: known?.because ?? [],
				personBecause: isTheirs ? known.personBecause : [],
				packet: null
			};
			return putCut(packet, cut);
		}
		case 'putCut':
			return putCut(packet, change.cut);
		case 'removeCut': {
			const cut = packet.cuts?.find((c) => c.page === change.page);
			if (!cut) throw new ChangeError('No packet begins here any more.');
			if (cut.packet !== null) throw new ChangeError(MADE);
			return {
				packet: { ...packet, cuts: packet.cuts!.filter((c) => c !== cut) },
				inverse: { kind: 'putCut', cut }
			};
		}
		case 'setLooked':
			return {
				packet: { ...packet, looked: change.pages },
				inverse: { kind: 'setLooked', pages: packet.looked ?? [] }
			};
		case 'together': {
			let current = packet;
			const inverses: Change[] = [];
			for (const part of change.changes) {
				const applied = apply(current, part);
				current = applied.packet;
				inverses.unshift(applied.inverse);
			}
			return { packet: current, inverse: { kind: 'together', changes: inverses } };
		}
	}
}

const MADE = 'This packet has been made already. Undo that first, or change it where it is.';

function putCut(packet: Packet, cut: Cut): Applied {
	pageOf(packet, cut.page);
	const { cuts = [] } = packet;
	const before = cuts.find((c) => c.page === cut.page);
	// Only the server says what a packet was made into.
	if (before && before.packet !== null && cut.packet === null && cut.person !== before.person) {
		throw new ChangeError(MADE);
	}
	return {
		packet: { ...packet, cuts: [...cuts.filter((c) => c !== before), cut] },
		inverse: before ? { kind: 'putCut', cut: before } : { kind: 'removeCut', page: cut.page }
	};
}

function split(packet: Packet, id: string, first: Half, second: string): Applied {
	const page = pageOf(packet, id);
	const index = packet.strip.indexOf(id);
	if (page.half !== undefined) throw new ChangeError('This page is one half of a picture already.');
	if (index < 0) throw new ChangeError('Put the page on the strip to make two of it.');
	const { source, sourcePage, turn, tone } = page;
	const picture = { source, sourcePage, corners: null, turn };
	const other: Page = { id: second, ...picture, half: first === 0 ? 1 : 0, tone };
	return apply(packet, {
		kind: 'together',
		changes: [
			{ kind: 'setPicture', page: id, picture: { ...picture, half: first } },
			{ kind: 'addPages', pages: [other], at: index + 1 }
		]
	});
}

function join(packet: Packet, id: string): Applied {
	const page = pageOf(packet, id);
	if (page.half === undefined) throw new ChangeError('This page is a whole picture already.');
	const { source, sourcePage, turn } = page;
	const whole = apply(packet, {
		kind: 'setPicture',
		page: id,
		picture: { source, sourcePage, corners: null, turn }
	});
	const other = otherHalf(packet, page);
	if (!other) return whole;
	const place = placeOf(packet, other.id);
	const back: Change[] = [
		{ kind: 'addPages', pages: [other], at: place.on === 'strip' ? place.index : packet.strip.length },
		...(place.on === 'tray' ? [{ kind: 'place', page: other.id, to: place } as const] : []),
		...packet.seams.filter((s) => s.page === other.id).map((seam) => ({ kind: 'setSeam', seam }) as const),
		whole.inverse
	];
	const pages = Object.fromEntries(Object.entries(whole.packet.pages).filter(([key]) => key !== other.id));
	return {
		packet: {
			...whole.packet,
			pages,
			strip: packet.strip.filter((p) => p !== other.id),
			tray: packet.tray.filter((t) => t.page !== other.id),
			seams: packet.seams.filter((s) => s.page !== other.id)
		},
		inverse: { kind: 'together', changes: back }
	};
}

/** Removing is only ever the inverse of adding; the pages' own edits and seams must be gone by then. */
function removePages(packet: Packet, ids: readonly string[]): Applied {
	const gone = ids.map((id) => pageOf(packet, id));
	const at = packet.strip.indexOf(ids[0] ?? '');
	const together = ids.every((id, i) => packet.strip[at + i] === id);
	if (at < 0 || !together || packet.seams.some((s) => ids.includes(s.page))) {
		throw new ChangeError('These pages have been worked on since; set them aside instead.');
	}
	const pages = Object.fromEntries(Object.entries(packet.pages).filter(([id]) => !ids.includes(id)));
	return {
		packet: { ...packet, pages, strip: packet.strip.filter((p) => !ids.includes(p)) },
		inverse: { kind: 'addPages', pages: gone, at }
	};
}

function pageOf(packet: Packet, id: string): Page {
	const page = Object.hasOwn(packet.pages, id) ? packet.pages[id] : undefined;
	if (!page) throw new ChangeError('This page is not in the packet.');
	return page;
}

function edited(packet: Packet, page: Page, inverse: Change): Applied {
	return { packet: { ...packet, pages: { ...packet.pages, [page.id]: page } }, inverse };
}

function placeOf(packet: Packet, page: string): Place {
	pageOf(packet, page);
	const index = packet.strip.indexOf(page);
	if (index >= 0) return { on: 'strip', index };
	const t = packet.tray.findIndex((x) => x.page === page);
	return { on: 'tray', index: t, reason: packet.tray[t]!.reason };
}

function put(packet: Packet, page: string, to: Place): Packet {
	return to.on === 'strip'
		? { ...packet, strip: insert(packet.strip, to.index, [page]) }
		: { ...packet, tray: insert(packet.tray, to.index, [{ page, reason: to.reason }]) };
}

function insert<T>(list: readonly T[], index: number, items: readonly T[]): T[] {
	const at = Math.min(Math.max(index, 0), list.length);
	return [...list.slice(0, at), ...items, ...list.slice(at)];
}

/** Seams have no order of their own; a fixed one makes equal packets equal. */
function sortSeams(seams: readonly Seam[]): Seam[] {
	return [...seams].sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));
}

/** The packet after a list of changes, from nothing. */
export function replay(changes: readonly Change[]): Packet {
	return changes.reduce<Packet>((packet, change) => apply(packet, change).packet, EMPTY_PACKET);
}
