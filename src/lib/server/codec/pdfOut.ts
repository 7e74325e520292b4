import { PDFDocument, PDFHexString, PDFName, PDFNumber, type PDFRef } from '@cantoo/pdf-lib';
import type { Drawn } from '../../core/marks/onPage';
import type { TextLine } from '../../core/reading/pageReading';
import type { PageImage } from './encode';
import { PdfMarks } from './pdfMarks';
import { PdfText } from './pdfText';

export interface PdfPage {
	readonly image: PageImage;
	readonly dotsPerInch: number;
	/** What is written on it, to be searched and read aloud; laid over the picture invisibly. */
	readonly text?: readonly TextLine[];
	/** What a person added to it, in pixels of the prepared page, and how many of them are an inch. */
	readonly added?: { readonly drawn: readonly Drawn[]; readonly dotsPerInch: number };
}

export interface PdfBookmark {
	readonly title: string;
	/** From 1. */
	readonly position: number;
	/** Fraction of the page's height, from the top. */
	readonly top: number;
}

export interface PdfContents {
	readonly title: string;
	readonly author: string;
	readonly subject?: string;
	/** BCP 47. */
	readonly language: string;
	readonly created: Date;
	readonly pages: readonly PdfPage[];
	readonly bookmarks: readonly PdfBookmark[];
	/** What was added to pages becomes notes of their own, which can be moved; else it is part of the pages. */
	readonly notesApart?: boolean;
}

/** Makes one PDF 1.7: an image a page with its text laid over it, bookmarks, page labels and metadata (ISO 32000-1). */
export async function makePdf(contents: PdfContents): Promise<Uint8Array> {
	const pdf = await PDFDocument.create({ updateMetadata: false });
	pdf.setTitle(contents.title, { showInWindowTitleBar: true });
	pdf.setAuthor(contents.author);
	if (contents.subject) pdf.setSubject(contents.subject);
	pdf.setProducer('Membrana');
	pdf.setCreator('Membrana');
	pdf.setLanguage(contents.language);
	pdf.setCreationDate(contents.created);
	pdf.setModificationDate(contents.created);

	const text = new PdfText(
		pdf,
		contents.pages.map((p) => p.text ?? [])
	);
	const refs = contents.pages.map((page) => addPage(pdf, page, text));
	const marks = new PdfMarks(pdf, contents);
	for (const [i, { added }] of contents.pages.entries()) {
		if (added) await marks.add(pdf.getPage(i), added);
	}
	addPageLabels(pdf);
	if (contents.bookmarks.length > 0) addBookmarks(pdf, contents.bookmarks, refs);
	return pdf.save({ useObjectStreams: false });
}

/** A page of a document, and its height in points. */
export interface PageRef {
	readonly ref: PDFRef;
	readonly height: number;
}

function addPage(
	pdf: PDFDocument,
	{ image, dotsPerInch, text: lines = [] }: PdfPage,
	text: PdfText
): PageRef {
	const width = (image.width * 72) / dotsPerInch;
	const height = (image.height * 72) / dotsPerInch;
	const page = pdf.addPage([width, height]);
	const { context } = pdf;
	const name = page.node.newXObject('Page', addImage(pdf, image));
	if (lines.length > 0) {
		for (const [key, font] of text.resources) page.node.setFontDictionary(PDFName.of(key), font);
	}
	const content = context.flateStream(
		`q ${width} 0 0 ${height} 0 0 cm ${name.toString()} Do Q\n${text.operators(lines, width, height)}`
	);
	// A list, so that more can follow.
	page.node.set(PDFName.of('Contents'), context.obj([context.register(content)]));
	return { ref: page.ref, height };
}

/** Puts an image into a document; no page shows it yet. */
export function addImage({ context }: PDFDocument, image: PageImage): PDFRef {
	const isG4 = image.format === 'g4';
	const stream = context.stream(image.bytes, {
		Type: 'XObject',
		Subtype: 'Image',
		Width: image.width,
		Height: image.height,
		ColorSpace: image.channels === 3 ? 'DeviceRGB' : 'DeviceGray',
		BitsPerComponent: isG4 ? 1 : 8,
		...(isG4
			? {
					Filter: 'CCITTFaxDecode',
					DecodeParms: { K: -1, Columns: image.width, Rows: image.height, BlackIs1: true }
				}
			: { Filter: 'DCTDecode' })
	});
	return context.register(stream);
}

/** Labels 1, 2, 3 … in the viewer's page list. */
export function addPageLabels(pdf: PDFDocument): void {
	const labels = pdf.context.obj({ Nums: [0, { S: 'D' }] });
	pdf.catalog.set(PDFName.of('PageLabels'), pdf.context.register(labels));
}

/** Makes the list of bookmarks, and has readers show it. */
export function addBookmarks(
	pdf: PDFDocument,
	bookmarks: readonly PdfBookmark[],
	pages: readonly PageRef[]
): void {
	const { context } = pdf;
	const root = context.nextRef();
	const refs = bookmarks.map(() => context.nextRef());
	bookmarks.forEach((bookmark, i) => {
		const page = pages[bookmark.position - 1];
		if (!page) throw new RangeError(`There is no page ${bookmark.position} to set a bookmark on.`);
		const item = context.obj({
			Title: PDFHexString.fromText(bookmark.title),
			Parent: root,
			Dest: [page.ref, 'XYZ', 0, page.height * (1 - bookmark.top), 0],
			...(i > 0 ? { Prev: refs[i - 1]! } : {}),
			...(i < refs.length - 1 ? { Next: refs[i + 1]! } : {})
		});
		context.assign(refs[i]!, item);
	});
	context.assign(
		root,
		context.obj({ Type: 'Outlines', First: refs[0]!, Last: refs.at(-1)!, Count: PDFNumber.of(refs.length) })
	);
	pdf.catalog.set(PDFName.of('Outlines'), root);
	pdf.catalog.set(PDFName.of('PageMode'), PDFName.of('UseOutlines'));
}
