import sharp from 'sharp';
import { PDFDocument } from '@cantoo/pdf-lib';
import { addNoise } from '../../demo/generator/light';
import { Random } from '../../demo/generator/random';
import { writtenPage, type PageSpec } from '../../demo/generator/writtenPage';

/** A side of paper as it lies in a feeder. */
export interface FedPage {
	readonly spec: PageSpec;
	/** Degrees it lies turned. */
	readonly lies: 0 | 180;
}

/** The empty back of a page: of the same paper. */
export function blankBack({ spec }: FedPage): FedPage {
	return {
		spec: { ...spec, name: undefined, pageNumber: undefined, header: undefined, blocks: [] },
		lies: 0
	};
}

/** Pixels a millimetre at 200 dots an inch. */
const SCALE = 7.874;

/** A page as a sheet feeder takes it: a little askew, paper nearly white, at 200 dots an inch. */
export async function fedPage({ spec, lies }: FedPage, seed: number): Promise<Buffer> {
	const random = new Random(seed);
	const { picture } = writtenPage({ ...spec, scale: SCALE });
	const { width, height } = picture;
	const data = Buffer.from(picture.data);
	addNoise(data, random.between(1, 3), random);
	const turned = await sharp(data, { raw: { width, height, channels: 3 } })
		.rotate(lies + 0.35 * random.normal(), { background: { r: 244, g: 244, b: 242 } })
		.raw()
		.toBuffer({ resolveWithObject: true });
	const { info } = turned;
	return sharp(turned.data, { raw: { width: info.width, height: info.height, channels: 3 } })
		.extract({ left: (info.width - width) >> 1, top: (info.height - height) >> 1, width, height })
		.linear(random.between(1, 1.04), random.between(-4, 2))
		.jpeg({ quality: 82 })
		.toBuffer();
}

/** Pages as a feeder's PDF. */
export async function feed(pages: readonly FedPage[], seed: number): Promise<Uint8Array> {
	const pdf = await PDFDocument.create();
	for (const [i, page] of pages.entries()) {
		const jpeg = await pdf.embedJpg(await fedPage(page, seed * 1000 + i));
		const sheet = pdf.addPage([595.28, 841.89]);
		sheet.drawImage(jpeg, { x: 0, y: 0, width: 595.28, height: 841.89 });
	}
	return pdf.save();
}
