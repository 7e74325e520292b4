import { deflateSync } from 'node:zlib';

/** A PDF out of its numbered objects, the first of which is the catalogue. */
function pdfOf(objects: readonly (string | Buffer)[]): Buffer {
	const parts: Buffer[] = [Buffer.from('%PDF-1.7\n')];
	const offsets: number[] = [];
	let length = parts[0]!.length;
	const push = (part: Buffer) => {
		parts.push(part);
		length += part.length;
	};
	for (const [i, object] of objects.entries()) {
		offsets.push(length);
		push(Buffer.concat([Buffer.from(`${i + 1} 0 obj\n`), Buffer.from(object), Buffer.from('\nendobj\n')]));
	}
	const at = length;
	const rows = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
	push(Buffer.from(`xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${rows}`));
	push(Buffer.from(`trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${at}\n%%EOF\n`));
	return Buffer.concat(parts);
}

function stream(dictionary: string, bytes: Buffer): Buffer {
	return Buffer.concat([
		Buffer.from(`<< ${dictionary} /Length ${bytes.length} >>\nstream\n`),
		bytes,
		Buffer.from('\nendstream')
	]);
}

const page = (resources: string) =>
	`<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << ${resources} >> >>`;
const CATALOGUE = '<< /Type /Catalog /Pages 2 0 R >>';
const PAGES = '<< /Type /Pages /Kids [3 0 R] /Count 1 >>';

/** A small PDF whose forms draw each other again and again: 10 to the power of `depth` lines on one page. */
export function nestedForms(depth: number): Buffer {
	const form = (i: number) => {
		const isLast = i === depth;
		const content = isLast ? '0 0 m 9 9 l S' : `/F${i + 1} Do `.repeat(10);
		const resources = isLast ? '' : `/Resources << /XObject << /F${i + 1} ${6 + i} 0 R >> >>`;
		return stream(`/Type /XObject /Subtype /Form /BBox [0 0 595 842] ${resources}`, Buffer.from(content));
	};
	const forms = Array.from({ length: depth }, (_, i) => form(i + 1));
	return pdfOf([
		CATALOGUE,
		PAGES,
		page('/XObject << /F1 5 0 R >>'),
		stream('', Buffer.from('/F1 Do '.repeat(10))),
		...forms
	]);
}

/** A PDF of one white picture with so many pixels on a side, squeezed to almost nothing. */
export function hugePicture(side: number): Buffer {
	const row = Math.ceil(side / 8);
	const bytes = deflateSync(Buffer.alloc(row * side, 0xff), { level: 9 });
	const dictionary = `/Type /XObject /Subtype /Image /Width ${side} /Height ${side} /ColorSpace /DeviceGray /BitsPerComponent 1 /Filter /FlateDecode`;
	return pdfOf([
		CATALOGUE,
		PAGES,
		page('/XObject << /I 5 0 R >>'),
		stream('', Buffer.from('595 0 0 842 0 0 cm /I Do')),
		stream(dictionary, bytes)
	]);
}
