import sharp from 'sharp';
import { PDFDocument } from '@cantoo/pdf-lib';
import { addNoise } from '../../demo/generator/light';
import { Random } from '../../demo/generator/random';
import { writtenPage } from '../../demo/generator/writtenPage';
import type { SampleStack, StackPage } from './sampleStack';

/** Pixels a millimetre at 200 dots an inch. */
const SCALE = 7.874;

/** A page as a sheet feeder takes it: a little askew, paper nearly white, at 200 dots an inch. */
export async function fedPage(page: StackPage, seed: number, like: StackPage): Promise<Buffer> {
	const random = new Random(seed);
	// A blank side is of the same paper as the others.
	const spec = page.spec ?? {
		...like.spec!,
		name: undefined,
		pageNumber: undefined,
		blocks: []
	};
	const { picture } = writtenPage({ ...spec, scale: SCALE });
	const { width, height } = picture;
	const data = Buffer.from(picture.data);
	addNoise(data, random.between(1, 3), random);
	const turned = await sharp(data, { raw: { width, height, channels: 3 } })
		.rotate(page.lies + 0.35 * random.normal(), { background: { r: 244, g: 244, b: 242 } })
		.raw()
		.toBuffer({ resolveWithObject: true });
	return sharp(turned.data, { raw: { width: turned.info.width, height: turned.info.height, channels: 3 } })
		.extract({
			left: (turned.info.width - width) >> 1,
			top: (turned.info.height - height) >> 1,
			width,
			height
		})
		.linear(random.between(1, 1.04), random.between(-4, 2))
		.jpeg({ quality: 82 })
		.toBuffer();
}

/** The whole stack as a feeder's PDF. */
export async function fedStack({ pages, seed }: SampleStack): Promise<Uint8Array> {
	const pdf = await PDFDocument.create();
	const like = pages.find((p) => p.spec)!;
	for (const [i, page] of pages.entries()) {
		const jpeg = await pdf.embedJpg(await fedPage(page, seed * 1000 + i, like));
		const sheet = pdf.addPage([595.28, 841.89]);
		sheet.drawImage(jpeg, { x: 0, y: 0, width: 595.28, height: 841.89 });
	}
	return pdf.save();
}
