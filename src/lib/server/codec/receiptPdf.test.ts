import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { lockPdf } from './lockPdf';
import { makeReceiptPdf } from './receiptPdf';

const folder = mkdtempSync(join(tmpdir(), 'membrana-receipt-'));

function run(program: string, bytes: Uint8Array, ...args: string[]): string {
	const path = join(folder, 'a.pdf');
	writeFileSync(path, bytes);
	const at = args.indexOf('FILE');
	return execFileSync(program, args.with(at, path), { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
}

const receipt = (change: Partial<Parameters<typeof makeReceiptPdf>[0]> = {}) =>
	makeReceiptPdf({
		title: 'Received',
		lines: [
			['Receipt', 'AF-00012'],
			['Of', 'Ilka Brandsma'],
			['SHA-256', '93b633eedecb6748d84942ec5d025f3bde54254e7192232c1bb4f4a9ad827a24']
		],
		footer: 'Whoever has the file can compare.',
		created: new Date('2026-11-25T12:00:00Z'),
		...change
	});

describe('the receipt as a PDF', () => {
	it('holds text that can be searched, and readers find no fault', async () => {
		const pdf = await receipt();
		const text = run('pdftotext', pdf, '-layout', 'FILE', '-');
		expect(text).toMatch(/Receipt\s+AF-00012/);
		expect(text.replace(/\s/g, '')).toContain(
			'93b633eedecb6748d84942ec5d025f3bde54254e7192232c1bb4f4a9ad827a24'
		);
		expect(run('qpdf', pdf, '--check', 'FILE')).toContain('No syntax');
	});

	it('writes names in other alphabets, and a mark for what no font has', async () => {
		const pdf = await receipt({ lines: [['Of', 'Łucja Ñandú, Θάλεια, Мирра, 林']] });
		expect(run('pdftotext', pdf, 'FILE', '-')).toContain('Łucja Ñandú, Θάλεια, Мирра, ?');
	});

	it('goes on to a second page, and breaks what is too long', async () => {
		const long = Array.from({ length: 400 }, (_, i) => `word${i}`).join(' ');
		const pdf = await receipt({
			lines: [
				['Comment', long],
				['Again', `${'y'.repeat(300)}\n${long}`]
			]
		});
		const text = run('pdftotext', pdf, 'FILE', '-');
		expect(text).toContain('word399');
		expect(run('pdfinfo', pdf, 'FILE')).toMatch(/Pages:\s+[34]/);
	});
});

describe('a PDF with a password', () => {
	it('opens with it only, and then shows the same', async () => {
		const plain = await receipt();
		const locked = await lockPdf(plain, 'reed mace');
		expect(() => run('pdftotext', locked, 'FILE', '-')).toThrow(/password/i);
		expect(() => run('pdftotext', locked, '-upw', 'wrong', 'FILE', '-')).toThrow(/password/i);
		expect(run('pdftotext', locked, '-upw', 'reed mace', 'FILE', '-')).toBe(
			run('pdftotext', plain, 'FILE', '-')
		);
		expect(run('pdfinfo', locked, '-upw', 'reed mace', 'FILE')).toMatch(/Encrypted:\s+yes.*AES-256/);
	});
});
