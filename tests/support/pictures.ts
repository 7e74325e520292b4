import sharp from 'sharp';
import type { Picture } from '../../src/lib/core/raster/picture';
import { hands } from '../../demo/generator/hands';
import { photograph, type PhotographSpec } from '../../demo/generator/photograph';
import { writtenPage, type PageSpec, type WrittenPage } from '../../demo/generator/writtenPage';

/** A page of writing with known truth; small, so that tests stay quick. */
export function testPage(seed: number, change: Partial<PageSpec> = {}): WrittenPage {
	return writtenPage({
		seed,
		hand: hands()[seed % hands().length]!,
		paper: 'A4',
		ruling: (['ruled', 'squared', 'plain'] as const)[seed % 3]!,
		ink: [28, 34, 82],
		name: 'Ilka Brandsma',
		pageNumber: 'p. 1/4',
		scale: 6,
		blocks: [
			{ kind: 'label', text: 'Q1' },
			{
				kind: 'text',
				lines: Array.from({ length: 9 }, (_, i) => LINES[(seed * 5 + i * 3) % LINES.length]!)
			},
			{ kind: 'space', lines: 1 },
			{ kind: 'label', text: 'Q2' },
			{ kind: 'text', lines: Array.from({ length: 4 }, (_, i) => LINES[(seed * 7 + i) % LINES.length]!) }
		],
		...change
	});
}

const LINES = [
	'the lode runs slower near the reeds',
	'so we took three verticals here',
	'and read the meter for sixty seconds',
	'the mean of both depths is what counts',
	'area times velocity gives the flow',
	'which we then added over all strips',
	'the error is mostly in the velocity',
	'because the rod sank into the peat',
	'wind from the west on that day',
	'two hundred and six litres a second',
	'as the gauge board said as well'
];

export function testPhotograph(
	page: Pick<WrittenPage, 'picture' | 'labels'>,
	spec: Partial<PhotographSpec> = {}
) {
	return photograph(page.picture, {
		seed: 5,
		size: [1200, 1600],
		desk: 'wood',
		fill: 0.85,
		slant: 3,
		tilt: 6,
		falloff: 0.25,
		warmth: 0.5,
		blur: 0.5,
		...spec
	});
}

export function jpeg({ data, width, height, channels }: Picture, quality = 88): Promise<Buffer> {
	return sharp(data, { raw: { width, height, channels } }).jpeg({ quality }).toBuffer();
}
