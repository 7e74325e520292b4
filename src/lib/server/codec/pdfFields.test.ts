import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { degrees, PDFDocument } from '@cantoo/pdf-lib';
import { expect, test } from 'vitest';
import { worksheetForm } from '../../../../tests/support/worksheetForm';
import { pdfFormFields } from './pdfFields';

const folder = mkdtempSync(join(tmpdir(), 'membrana-form-'));

test('the fields of a worksheet are found where they lie, from the top down; what cannot be filled in is left out', async () => {
	const path = join(folder, 'form.pdf');
	writeFileSync(path, await worksheetForm());
	const fields = await pdfFormFields(path, 0);
	expect(fields.map(({ label, kind, isLong, options }) => [label, kind, isLong, options])).toEqual([
		['group', 'words', false, []],
		['meter', 'choice', false, ['rod', 'float']],
		['calm water', 'tick', false, []],
		['bank, choice 1', 'tick', false, []],
		['bank, choice 2', 'tick', false, []],
		['remarks', 'words', true, []]
	]);
	const [group] = fields;
	// 72 points from the left, 700 from the foot, 200 wide and 20 high, on A4.
	expect(group!.box[0]).toBeCloseTo(72 / 595, 2);
	expect(group!.box[1]).toBeCloseTo((842 - 720) / 842, 2);
	expect(group!.box[2]).toBeCloseTo(200 / 595, 2);
	expect(fields[3]!.oneOf).toBe(fields[4]!.oneOf);
	expect(fields[3]!.oneOf).not.toBeNull();
	expect(await pdfFormFields(path, 1)).toEqual([]);
	await expect(pdfFormFields(path, 7)).rejects.toThrow('no page 8');
});

test('on a page that is turned, fields lie where they are seen', async () => {
	const pdf = await PDFDocument.load(await worksheetForm());
	pdf.getPage(0).setRotation(degrees(90));
	const path = join(folder, 'turned.pdf');
	writeFileSync(path, await pdf.save());
	const group = (await pdfFormFields(path, 0)).find((f) => f.label === 'group')!;
	// A quarter to the right: what was at the top is on the right.
	expect(group.box[0] + group.box[2] / 2).toBeCloseTo(710 / 842, 1);
	expect(group.box[1] + group.box[3] / 2).toBeCloseTo(172 / 595, 1);
});
