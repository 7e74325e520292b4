import type { Quadrilateral } from '../sheet/geometry';
import type { Turn } from '../sheet/turn';
import type { Tone } from '../tone/tone';

/** One side of one sheet: which picture it is made from, and what a person set by hand. */
export interface Page {
	readonly id: string;
	readonly source: string;
	/** Which picture of the source: the page of a PDF, from 0. */
	readonly sourcePage: number;
	/** Set by a person; null: as found. In pixels of the picture as displayed. */
	readonly corners: Quadrilateral | null;
	/** Set by a person; null: as found. */
	readonly turn: Turn | null;
	/** Set by a person; null: the packet's usual tone. */
	readonly tone: Tone | null;
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

export const TRAY_REASONS = ['duplicate', 'blank', 'extra'] as const;
export type TrayReason = (typeof TRAY_REASONS)[number];

/** One person's answer to one assignment. A plain value: every edit makes a new one. */
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
}

export const EMPTY_PACKET: Packet = {
	pages: {},
	strip: [],
	tray: [],
	seams: [],
	notAttempted: [],
	fileName: null
};

/** The page's place on the strip, counted from 1, or null when it is in the side tray. */
export function positionOf(packet: Packet, page: string): number | null {
	const i = packet.strip.indexOf(page);
	return i < 0 ? null : i + 1;
}
