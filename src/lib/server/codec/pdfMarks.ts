import {
	PDFHexString,
	PDFName,
	PDFString,
	type PDFDocument,
	type PDFPage,
	type PDFRef
} from '@cantoo/pdf-lib';
import { boundsOf, type Drawn } from '../../core/marks/onPage';
import type { Point } from '../../core/sheet/geometry';
import { Fonts } from './pdfFonts';

interface Manner {
	/** Notes of their own, or part of the page. */
	readonly notesApart?: boolean;
	/** Whose they are, and of when. */
	readonly author: string;
	readonly created: Date;
}

/** Room around what is drawn, in points. */
const AIR = 2;

/**
 * Draws on pages what a person added to them: each as a form of its own (ISO 32000-1, 8.10), which the page shows, or
 * which is the appearance of an annotation (12.5) that a reader can move, change and take away.
 */
export class PdfMarks {
	readonly #pdf: PDFDocument;
	readonly #fonts: Fonts;
	readonly #manner: Manner;
	#seeThrough: PDFRef | null = null;

	constructor(pdf: PDFDocument, manner: Manner) {
		this.#pdf = pdf;
		this.#fonts = new Fonts(pdf);
		this.#manner = manner;
	}

	/** @param added in pixels, of which so many are an inch of the page */
	async add(
		page: PDFPage,
		{ drawn, dotsPerInch }: { readonly drawn: readonly Drawn[]; readonly dotsPerInch: number }
	): Promise<void> {
		const height = page.getHeight();
		const scale = 72 / dotsPerInch;
		const onPaper = ([x, y]: Point): Point => [x * scale, height - y * scale];
		for (const one of drawn) {
			const [x0, y0, x1, y1] = boundsOf(one);
			const [left, top] = onPaper([x0, y0]);
			const [right, bottom] = onPaper([x1, y1]);
			const box = [left - AIR, bottom - AIR, right + AIR, top + AIR];
			const form = await this.#form(one, box, onPaper, scale);
			if (this.#manner.notesApart) this.#annotate(page, one, box, form, onPaper, scale);
			else {
				const name = page.node.newXObject('Added', form);
				page.node.addContentStream(this.#pdf.context.register(this.#pdf.context.flateStream(`${name} Do`)));
			}
		}
	}

	async #form(
		one: Drawn,
		box: readonly number[],
		onPaper: (p: Point) => Point,
		scale: number
	): Promise<PDFRef> {
		const { context } = this.#pdf;
		const fonts = new Map<string, PDFRef>();
		const colour = `${colourOf(one)} rg`;
		let content: string;
		if (one.kind === 'area') {
			const [first, ...rest] = one.outline.map((p) => onPaper(p).map(digits).join(' '));
			content = `${one.seeThrough ? '/SeeThrough gs ' : ''}${colour} ${first} m ${rest.map((p) => `${p} l`).join(' ')} h f`;
		} else {
			const lines: string[] = [];
			for (const [i, line] of one.lines.entries()) {
				const [x, y] = onPaper([one.x, one.y + i * one.pitch]);
				lines.push(`1 0 0 1 ${digits(x)} ${digits(y)} Tm`);
				for (const { ref, name, hex } of await this.#fonts.strings(line)) {
					fonts.set(name, ref);
					lines.push(`/${name} ${digits(one.size * scale)} Tf ${hex} Tj`);
				}
			}
			content = `BT ${colour} ${lines.join(' ')} ET`;
		}
		const form = context.flateStream(content, {
			Type: 'XObject',
			Subtype: 'Form',
			BBox: [...box],
			Resources: {
				Font: Object.fromEntries(fonts),
				...(one.kind === 'area' && one.seeThrough ? { ExtGState: { SeeThrough: this.#multiplying() } } : {})
			}
		});
		return context.register(form);
	}

	/** Ink under it stays as dark as it is. */
	#multiplying(): PDFRef {
		const { context } = this.#pdf;
		this.#seeThrough ??= context.register(context.obj({ Type: 'ExtGState', BM: 'Multiply' }));
		return this.#seeThrough;
	}

	#annotate(
		page: PDFPage,
		one: Drawn,
		box: readonly number[],
		form: PDFRef,
		onPaper: (p: Point) => Point,
		scale: number
	): void {
		const { context } = this.#pdf;
		const { author, created } = this.#manner;
		const rgb = one.rgb.map((c) => c / 255);
		const kind =
			one.kind === 'area'
				? { Subtype: 'Ink', InkList: [one.path.flatMap(onPaper)], C: rgb }
				: {
						Subtype: 'FreeText',
						DA: PDFString.of(`/Helv ${digits(one.size * scale)} Tf ${colourOf(one)} rg`),
						Contents: PDFHexString.fromText(one.lines.join('\n')),
						BS: { W: 0 }
					};
		const annotation = context.obj({
			Type: 'Annot',
			Rect: [...box],
			// Printed with the page.
			F: 4,
			NM: PDFString.of(one.id),
			T: PDFHexString.fromText(author),
			M: PDFString.fromDate(created),
			AP: { N: form },
			P: page.ref,
			...kind
		});
		page.node.addAnnot(context.register(annotation));
		page.node.set(PDFName.of('Tabs'), PDFName.of('S'));
	}
}

const digits = (value: number) => (Math.round(100 * value) / 100).toString();
const colourOf = ({ rgb }: Drawn) => rgb.map((c) => digits(c / 255)).join(' ');
