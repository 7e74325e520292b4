import { TONES } from '$lib/core/tone/tone';
import { formatOffset, offsetOfLocal, zoneOffset } from '$lib/core/rules/dueTime';
import type { RuleSheet } from '$lib/core/rules/ruleSheet';

/** A rule sheet while it is being written: every field there, empty where nothing is asked. */
export interface RuleSheetDraft {
	title: string;
	course: string;
	/** "2026-12-04T18:00", without zone. */
	dueLocal: string;
	/** Minutes after the due time. */
	grace: string;
	/** "2026-12-04T17:45", in the same zone; of a timed session. */
	workUntilLocal: string;
	/** "+01:00"; '' is whatever the clock of the course's zone is by then. */
	zone: string;
	questions: {
		label: string;
		marks: string;
		newPage: boolean;
		parts: { label: string; marks: string }[];
	}[];
	min: string;
	max: string;
	size: string;
	namePattern: string;
	type: 'pdf' | 'zip';
	megabytes: string;
	tones: string[];
	legibility: 'doubtful' | 'clear';
	levels: Record<string, string>;
}

const text = (value: number | undefined) => (value === undefined ? '' : String(value));

/** A moment as the clock of a zone shows it: "2026-12-04T18:00". */
function inZone(iso: string, zone: string): string {
	return new Date(Date.parse(iso) + zoneOffset(zone) * 60_000).toISOString().slice(0, 16);
}

/** @param timeZone IANA name of the zone in which times are written where the sheet has none */
export function draftOf(sheet: RuleSheet, timeZone: string): RuleSheetDraft {
	const due = /^(.{16}).*?(Z|[+-]\d\d:\d\d)$/.exec(sheet.due ?? '');
	const zone = due?.[2] === 'Z' ? '+00:00' : (due?.[2] ?? '');
	return {
		title: sheet.title,
		course: sheet.course ?? '',
		dueLocal: due?.[1] ?? '',
		grace: text(sheet.grace),
		workUntilLocal: sheet.workUntil && due ? inZone(sheet.workUntil, zone) : '',
		zone: due && zone !== formatOffset(offsetOfLocal(due[1]!, timeZone)) ? zone : '',
		questions: sheet.questions.map((q) => ({
			label: q.label,
			marks: text(q.marks),
			newPage: q.newPage ?? false,
			parts: (q.parts ?? []).map((p) => ({ label: p.label, marks: text(p.marks) }))
		})),
		min: text(sheet.pages?.min),
		max: text(sheet.pages?.max),
		size: sheet.pages?.size ?? '',
		namePattern: sheet.file?.namePattern ?? '',
		type: sheet.file?.type ?? 'pdf',
		megabytes: sheet.file?.maxBytes ? String(sheet.file.maxBytes / 1e6) : '',
		tones: [...(sheet.tone ?? [])],
		legibility: sheet.legibility ?? 'doubtful',
		levels: { ...sheet.levels }
	};
}

/**
 * What a draft says, as the JSON form; not checked. Fields left empty are left out.
 * @param timeZone IANA name of the zone in which times are written where the draft names none
 */
export function sheetOf(draft: RuleSheetDraft, timeZone: string): unknown {
	const moment = (local: string) =>
		local ? `${local}:00${draft.zone || formatOffset(offsetOfLocal(local, timeZone))}` : undefined;
	const number = (value: string) => (value.trim() === '' ? undefined : Number(value.replace(',', '.')));
	const orNothing = <T extends object>(value: T) =>
		Object.values(value).some((v) => v !== undefined) ? value : undefined;
	const megabytes = number(draft.megabytes);
	const sheet = {
		title: draft.title,
		course: draft.course || undefined,
		due: moment(draft.dueLocal),
		grace: number(draft.grace),
		workUntil: moment(draft.workUntilLocal),
		questions: draft.questions.map((q) => ({
			label: q.label,
			marks: q.parts.length > 0 ? undefined : number(q.marks),
			newPage: q.newPage || undefined,
			parts: q.parts.length > 0 ? q.parts.map((p) => ({ label: p.label, marks: number(p.marks) })) : undefined
		})),
		pages: orNothing({ min: number(draft.min), max: number(draft.max), size: draft.size || undefined }),
		file: orNothing({
			namePattern: draft.namePattern || undefined,
			type: draft.type,
			maxBytes: megabytes === undefined ? undefined : Math.round(megabytes * 1e6)
		}),
		tone: draft.tones.length > 0 && draft.tones.length < TONES.length ? draft.tones : undefined,
		legibility: draft.legibility,
		levels: orNothing({ ...draft.levels })
	};
	// Through JSON, so that what was left out is really gone.
	return JSON.parse(JSON.stringify(sheet));
}
