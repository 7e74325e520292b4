import { PDFDocument } from '@cantoo/pdf-lib';

/** A PDF that opens only with a password (AES-256, ISO 32000-2); what it shows stays the same. */
export async function lockPdf(bytes: Uint8Array, password: string): Promise<Uint8Array> {
	const pdf = await PDFDocument.load(bytes, { updateMetadata: false });
	pdf.encrypt({
		userPassword: password,
		ownerPassword: password,
		permissions: { printing: 'highResolution', copying: true, contentAccessibility: true }
	});
	return pdf.save({ useObjectStreams: false });
}
