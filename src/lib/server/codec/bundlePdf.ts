import {
	concatTransformationMatrix,
	drawObject,
	PDFDocument,
	PDFName,
	popGraphicsState,
	pushGraphicsState,
	type PDFRef
} from '@cantoo/pdf-lib';
import { HEADING, layOut, type Size } from '../../core/bundle/layOut';
import type { TextLine } from '../../core/reading/pageReading';
import type { MadeCutOut } from './cutOut';
import { Fonts, INK, SOFT } from './pdfFonts';
import { addBookmarks, addImage, addPageLabels, type PageRef, type PdfBookmark } from './pdfOut';
import { PdfText } from './pdfText';

/** One person's answer to the bundle's question. */
export interface BundledAnswer {
	/** What stands above it: a code, or a name. */
	readonly heading: string;
	readonly cutOuts: readonly (MadeCutOut & {
		/** Page of the packet, from 1. */
		readonly position: number;
	})[];
}

export interface Bundle {
	/** "Question 3". */
	readonly question: string;
	/** Of the assignment. */
	readonly title: string;
	readonly answers: readonly BundledAnswer[];
	/** Headings of those who did not answer it. */
	readonly without: readonly string[];
	/** Whether each answer has pages of its own. */
	readonly apart: boolean;
	readonly created: Date;
}

const A4: Size = { width: 595.28, height: 841.89 };
const MARGIN = 24;
/** Where a heading's line of writing stands, below its top. */
const BASELINE = 22;

/** One question's answers of a class as one PDF, and the page (from 1) on which each begins. */
export async function makeBundlePdf(bundle: Bundle): Promise<{ pdf: Uint8Array; begins: number[] }> {
	const pdf = await PDFDocument.create({ updateMetadata: false });
	pdf.setTitle(`${bundle.question}, ${bundle.title}`, { showInWindowTitleBar: true });
	pdf.setProducer('Membrana');
	pdf.setCreator('Membrana');
	pdf.setLanguage('en');
	pdf.setCreationDate(bundle.created);
	pdf.setModificationDate(bundle.created);
	const fonts = new Fonts(pdf);
	const sizeOf = ({ image, dotsPerInch }: MadeCutOut): Size => ({
		width: (image.width * 72) / dotsPerInch,
		height: (image.height * 72) / dotsPerInch
	});
	const laid = layOut(
		bundle.answers.map((a) => a.cutOuts.map(sizeOf)),
		A4,
		bundle.apart
	);
	const textOf = (items: (typeof laid)[number]): TextLine[] =>
		items.items.flatMap((item) => {
			if (item.kind !== 'cut-out') return [];
			const made = bundle.answers[item.answer]!.cutOuts[item.cutOut]!;
			const size = sizeOf(made);
			return made.text.map((line) => ({ ...line, box: onPage(line.box, size, item.y, items) }));
		});
	const texts = laid.map(textOf);
	const text = new PdfText(pdf, texts);
	const images = new Map<MadeCutOut, PDFRef>();
	const refs: PageRef[] = [];
	const bookmarks: PdfBookmark[] = [];
	const begins: number[] = [];
	for (const [i, { width, height, items }] of laid.entries()) {
		const page = pdf.addPage([width, height]);
		refs.push({ ref: page.ref, height });
		if (texts[i]!.length > 0) {
			for (const [key, font] of text.resources) page.node.setFontDictionary(PDFName.of(key), font);
			const unseen = pdf.context.flateStream(`q\n${text.operators(texts[i]!, width, height)}\nQ`);
			page.node.addContentStream(pdf.context.register(unseen));
		}
		for (const item of items) {
			const { heading, cutOuts } = bundle.answers[item.answer]!;
			if (item.kind === 'heading') {
				const y = height - item.y - BASELINE;
				await fonts.draw(page, heading, MARGIN, y, 15, INK);
				const rest = `${bundle.question}${item.continued ? ', continued' : ''}`;
				await fonts.draw(page, rest, width / 2, y, 9, SOFT);
				page.drawLine({
					start: { x: MARGIN, y: height - item.y - HEADING + 3 },
					end: { x: width - MARGIN, y: height - item.y - HEADING + 3 },
					thickness: 0.5,
					color: SOFT
				});
				if (item.continued) continue;
				begins[item.answer] = i + 1;
				bookmarks.push({ title: heading, position: i + 1, top: item.y / height });
			} else {
				const made = cutOuts[item.cutOut]!;
				const size = sizeOf(made);
				if (!images.has(made)) images.set(made, addImage(pdf, made.image));
				const name = page.node.newXObject('CutOut', images.get(made)!);
				page.pushOperators(
					pushGraphicsState(),
					concatTransformationMatrix(size.width, 0, 0, size.height, 0, height - item.y - size.height),
					drawObject(name),
					popGraphicsState()
				);
			}
		}
	}
	if (bundle.without.length > 0 || laid.length === 0) await addWithout(pdf, fonts, bundle);
	addPageLabels(pdf);
	if (bookmarks.length > 0) addBookmarks(pdf, bookmarks, refs);
	return { pdf: await pdf.save({ useObjectStreams: false }), begins };
}

/** Whoever grades sees who is not there. */
async function addWithout(pdf: PDFDocument, fonts: Fonts, { without, question }: Bundle): Promise<void> {
	const page = pdf.addPage([A4.width, A4.height]);
	let y = A4.height - MARGIN - BASELINE;
	await fonts.draw(page, 'Nothing is mapped to this question of', MARGIN, y, 13, INK);
	for (const row of await fonts.wrap(without.join('   '), A4.width - 2 * MARGIN, 11)) {
		y -= 18;
		await fonts.draw(page, row, MARGIN, y, 11, INK);
	}
	await fonts.draw(page, question, MARGIN, y - 24, 9, SOFT);
}

/** A box on a cut-out as one on the page it stands on. */
function onPage([x0, y0, x1, y1]: TextLine['box'], size: Size, top: number, page: Size): TextLine['box'] {
	const across = (x: number) => (x * size.width) / page.width;
	const down = (y: number) => (top + y * size.height) / page.height;
	return [across(x0), down(y0), across(x1), down(y1)];
}
