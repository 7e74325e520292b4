import type { Mark } from '../marks/mark';
import type { Encoding } from '../size/pageWeights';
import type { Half } from '../sheet/fold';
import type { Quadrilateral } from '../sheet/geometry';
import type { Turn } from '../sheet/turn';
import type { Tone } from '../tone/tone';

/** One side of one sheet: which picture it is made from, and what a person set by hand. */
export interface Page {
	readonly id: string;
	readonly source: string;
	/** Which picture of the source: the page of a PDF, from 0. */
	readonly sourcePage: number;
	/** Of a picture of two pages, the one that this is; absent: the whole picture is one page. */
	readonly half?: Half;
	/** Set by a person; null: as found. In pixels of the picture as displayed. */
	readonly corners: Quadrilateral | null;
	/** Set by a person; null: as found. */
	readonly turn: Turn | null;
	/** Set by a person; null: the packet's usual tone. */
	readonly tone: Tone | null;
	/** How finely it is kept in the file; absent: as prepared. */
	readonly encoding?: Encoding;
	/** The number on it as a person reads it, null for none; absent: as Membrana reads it. */
	readonly number?: number | null;
	/** False: its lines stay as the camera saw them; absent: where they surely bend, they are made level. */
	readonly level?: false;
	/** A person said that it is their own, whatever name was read on it; absent: nobody has said so. */
	readonly own?: true;
	/** What a person said of it after reading it through; absent: not read through yet. */
	readonly proofread?: Proofread;
	/** What a person added to it, in that sequence; absent: nothing. */
	readonly marks?: readonly Mark[];
}

export const PROOFREAD_VERDICTS = ['fine', 'needs-work'] as const;

export interface Proofread {
	readonly verdict: (typeof PROOFREAD_VERDICTS)[number];
	/** The key of the prepared page that was read: what is prepared anew has not been read. */
	readonly seen: string;
}

/** Where work on one question ends and on another begins. */
export interface Seam {
	readonly id: string;
	readonly page: string;
	/** Fraction of the upright page's height. */
	readonly y: number;
	/** What the work below answers; none: nothing that counts (rough work, a cover). */
	readonly questions: readonly string[];
}

/** Letters of a note to the teacher. */
export const LONGEST_NOTE = 1000;

export const TRAY_REASONS = ['duplicate', 'blank', 'extra', 'cover'] as const;
export type TrayReason = (typeof TRAY_REASONS)[number];

/** In a stack, where a packet begins. */
export interface Cut {
	/** Its first page. */
	readonly page: string;
	/** Whose it is; null: not known. */
	readonly person: string | null;
	/** How sure Membrana is of the place and of the person, 0 to 1; what a person said is 1. */
	readonly sure: number;
	readonly personSure: number;
	/** Why there, and why theirs, in words. */
	readonly because: readonly string[];
	readonly personBecause: readonly string[];
	/** The packet that it was made into; null: not yet. */
	readonly packet: string | null;
}

/** One person's answer to one assignment, or a stack of many people's. A plain value: every edit makes a new one. */
export interface Packet {
	readonly pages: Readonly<Record<string, Page>>;
	/** Pages in the file, in sequence. */
	readonly strip: readonly string[];
	/** Pages set aside: in the packet, not in the file. */
	readonly tray: readonly { readonly page: string; readonly reason: TrayReason }[];
	readonly seams: readonly Seam[];
	/** Questions the student says were not attempted. */
	readonly notAttempted: readonly string[];
	/** Without extension; null: from the pattern. */
	readonly fileName: string | null;
	/** What the student writes to the teacher about a finding, by its rule; goes along when it is handed in. */
	readonly notes?: Readonly<Record<string, string>>;
	/** What was added by hand goes into the file as notes of their own, which can be moved; absent: as part of the page. */
	readonly notesApart?: true;
	/** Proposals that a person does not want, by their keys. */
	readonly declined?: readonly string[];
	/** Of a stack: where packets begin, in no sequence. */
	readonly cuts?: readonly Cut[];
	/** Of a stack: pages for which cuts have been proposed. */
	readonly looked?: readonly string[];
}

export const EMPTY_PACKET: Packet = {
	pages: {},
	strip: [],
	tray: [],
	seams: [],
	notAttempted: [],
	fileName: null
};

/** The page made of the other half of the same picture. */
export function otherHalf(packet: Packet, page: Page): Page | null {
	if (page.half === undefined) return null;
	const all = Object.values(packet.pages);
	const isOther = (p: Page) =>
		p.source === page.source && p.sourcePage === page.sourcePage && p.half === 1 - page.half!;
	return all.find(isOther) ?? null;
}

/** The page's place on the strip, counted from 1, or null when it is in the side tray. */
export function positionOf(packet: Packet, page: string): number | null {
	const i = packet.strip.indexOf(page);
	return i < 0 ? null : i + 1;
}
