import { page } from '../../../../tests/support/page';
import { describe, expect, it } from 'vitest';
import type { Finding } from '../rules/finding';
import { apply, type Change } from './change';
import { differences } from './difference';
import { manifestOf, manifestRows, type ManifestPage } from './manifest';
import { notesInWords, notesThatGo } from '../check/notes';
import { EMPTY_PACKET, type Packet } from './packet';

const PACKET: Packet = {
	...EMPTY_PACKET,
	pages: Object.fromEntries(['a', 'b', 'c', 'd'].map((id) => [id, page(id)])),
	strip: ['a', 'b', 'c'],
	tray: [{ page: 'd', reason: 'duplicate' }],
	seams: [
		{ id: 's1', page: 'a', y: 0.05, questions: ['1'] },
		{ id: 's2', page: 'b', y: 0.5, questions: ['2a', '2b'] }
	]
};
const after = (...changes: Change[]) => changes.reduce((p, c) => apply(p, c).packet, PACKET);

describe('what changed between two versions', () => {
	const told = (...changes: Change[]) => differences(PACKET, after(...changes));

	it('is nothing where the file is the same', () => {
		expect(told()).toEqual([]);
		// What stands only in the packet, not in the file.
		expect(told({ kind: 'setNote', rule: 'legibility', note: 'x' })).toEqual([]);
		expect(told({ kind: 'setProofread', page: 'a', proofread: { verdict: 'fine', seen: 'k' } })).toEqual([]);
	});

	it('names pages that came, went, moved or look otherwise', () => {
		expect(told({ kind: 'place', page: 'd', to: { on: 'strip', index: 1 } })).toEqual([
			'page 2 is new',
			'1 is placed otherwise'
		]);
		expect(told({ kind: 'place', page: 'c', to: { on: 'tray', index: 0, reason: 'extra' } })).toEqual([
			'1 page taken out (was 3)',
			'2a and 2b are placed otherwise'
		]);
		expect(told({ kind: 'place', page: 'c', to: { on: 'strip', index: 0 } })).toContain(
			'the order is another one'
		);
		expect(
			told(
				{ kind: 'setTurn', page: 'a', turn: 90 },
				{ kind: 'setTurn', page: 'c', turn: 180 },
				{ kind: 'setEncoding', page: 'b', encoding: { dotsPerInch: 150, quality: 50 } }
			)
		).toEqual(['pages 1 and 3: turned', 'page 2: kept more or less finely']);
	});

	it('says of a page photographed again only that', () => {
		const picture = { source: 'e', sourcePage: 0, corners: null, turn: 90 as const };
		expect(told({ kind: 'setPicture', page: 'b', picture })).toEqual(['page 2: photographed again']);
	});

	it('names questions that are placed or marked otherwise, and another name', () => {
		expect(told({ kind: 'setSeam', seam: { ...PACKET.seams[1]!, y: 0.6 } })).toEqual([
			'1, 2a and 2b are placed otherwise'
		]);
		expect(
			told({ kind: 'setAttempted', question: '3', attempted: false }, { kind: 'setFileName', name: 'other' })
		).toEqual(['marked otherwise as attempted or not: 3', 'the file has another name']);
	});
});

describe('the manifest', () => {
	const known = (id: string): ManifestPage & { lines: null } => ({
		source: `${id}.jpg`,
		sourcePage: 0,
		turn: id === 'b' ? 90 : 0,
		legibility: { score: 0.9, verdict: 'clear', reasons: [] },
		pageNumber: id === 'a' ? { number: 1, of: 3, confidence: 0.9 } : null,
		lines: null
	});
	const file = { name: 'x.pdf', bytes: 10, sha256: 'f00' };
	const findings: Finding[] = [{ rule: 'pageCount', level: 'clear', message: '3 pages', pages: [] }];
	const manifest = manifestOf({
		file,
		packet: PACKET,
		findings,
		page: known,
		missing: [4],
		repeats: () => 'b'
	});

	it('says what each page is, what is set aside and what answers which question', () => {
		expect(manifest.pages.map((p) => [p.position, p.source, p.turn])).toEqual([
			[1, 'a.jpg', 0],
			[2, 'b.jpg', 90],
			[3, 'c.jpg', 0]
		]);
		expect(manifest.setAside).toEqual([{ source: 'd.jpg', sourcePage: 0, reason: 'duplicate', of: 2 }]);
		expect(manifest.missing).toEqual([4]);
		expect(manifest.map.map((m) => [m.question, m.stretches.length, m.confidence])).toEqual([
			['1', 2, 1],
			['2a', 2, 1],
			['2b', 2, 1]
		]);
		expect(manifest.findings).toEqual(findings);
	});

	it('as a table has a row for each part that answers a question, in reading order', () => {
		const rows = manifestRows(manifest).map((r) => [r.position, r.question, r.top, r.bottom, r.pageNumber]);
		expect(rows).toEqual([
			[1, '1', '0.0500', '1.0000', '1'],
			[2, '1', '0.0000', '0.5000', ''],
			[2, '2a', '0.5000', '1.0000', ''],
			[2, '2b', '0.5000', '1.0000', ''],
			[3, '2a', '0.0000', '1.0000', ''],
			[3, '2b', '0.0000', '1.0000', '']
		]);
		const empty = manifestOf({ file, packet: { ...PACKET, seams: [] }, findings, page: known });
		expect(manifestRows(empty).map((r) => [r.position, r.question])).toEqual([
			[1, ''],
			[2, ''],
			[3, '']
		]);
	});
});

describe('notes to the teacher', () => {
	it('go along while what they are about still asks to look', () => {
		const notes = { legibility: 'The lamp was broken.', pageCount: 'One page is enough.' };
		const found = (level: Finding['level']): Finding[] => [
			{ rule: 'legibility', level, message: 'Page 2 is doubtful', pages: [2] },
			{ rule: 'upright', level: 'look', message: 'Page 1 may lie on its side', pages: [1] }
		];
		expect(notesThatGo(notes, found('look')).map((n) => n.note)).toEqual(['The lamp was broken.']);
		expect(notesInWords(notes, found('look'))).toBe('Legibility (Page 2 is doubtful): The lamp was broken.');
		expect(notesInWords(notes, found('clear'))).toBe('');
		expect(notesInWords(undefined, found('look'))).toBe('');
	});
});
