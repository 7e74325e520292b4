import type { PDFPage } from '@cantoo/pdf-lib';
import { create as createQr } from 'qrcode';
import { INK } from './pdfFonts';

interface QrLook {
	readonly color?: typeof INK;
	/** How much of it may be lost: M an eighth, Q a quarter. */
	readonly errorCorrectionLevel?: 'M' | 'Q';
}

/** Cells on a side of the QR code of a text. */
export function qrCells(text: string, { errorCorrectionLevel = 'M' }: QrLook = {}): number {
	return createQr(text, { errorCorrectionLevel }).modules.size;
}

/** Draws a QR code of a text, its lower left corner at a place, in points. */
export function drawQr(
	page: PDFPage,
	text: string,
	[x, y]: readonly [number, number],
	size: number,
	{ color = INK, errorCorrectionLevel = 'M' }: QrLook = {}
): void {
	const { modules } = createQr(text, { errorCorrectionLevel });
	const cell = size / modules.size;
	for (let row = 0; row < modules.size; row++) {
		for (let column = 0; column < modules.size; column++) {
			if (!modules.get(row, column)) continue;
			page.drawRectangle({
				x: x + column * cell,
				y: y + (modules.size - 1 - row) * cell,
				width: cell + 0.05,
				height: cell + 0.05,
				color
			});
		}
	}
}
