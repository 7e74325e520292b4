import { mkdir, writeFile, access } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Picture } from '../src/lib/core/raster/picture';
import { makePdf } from '../src/lib/server/codec/pdfOut';
import { hands } from './generator/hands';
import { photograph, type PhotographSpec } from './generator/photograph';
import { writtenPage, type Block, type PageSpec } from './generator/writtenPage';

/** One photograph of the demo, and the truth about it (written beside it as JSON). */
interface Shot {
	/** Path under the pictures folder. */
	readonly file: string;
	readonly page: Omit<PageSpec, 'hand' | 'scale'> & { readonly hand: number };
	readonly photo: Omit<PhotographSpec, 'size'>;
	readonly size?: readonly [number, number];
	readonly back?: Omit<PageSpec, 'hand' | 'scale'> & { readonly hand: number };
	/** The right page of an open notebook. */
	readonly opposite?: Shot['page'];
}

const SIZE = [1536, 2048] as const;
const SCALE = 7;
const BLUE = [30, 40, 110] as const;
const BLACK = [24, 24, 28] as const;
const PENCIL = [84, 84, 88] as const;

const label = (text: string): Block => ({ kind: 'label', text });
const text = (...lines: string[]): Block => ({ kind: 'text', lines });
const space = (lines = 1): Block => ({ kind: 'space', lines });

const VELOCITY_TABLE: Block = {
	kind: 'table',
	rows: [
		['x / m', 'd / m', 'v / m s-1', 'b d v'],
		['0.5', '0.22', '0.18', '0.020'],
		['1.0', '0.41', '0.33', '0.068'],
		['1.5', '0.47', '0.38', '0.089'],
		['2.0', '0.39', '0.31', '0.060'],
		['2.5', '0.18', '0.14', '0.013']
	]
};

/** A student's whole answers, as they are handed in. */
const ANSWER_1: Block[] = [
	label('Q1'),
	text(
		'We stretched a tape across the Lode at the footbridge, where',
		'the channel is straight for ~twenty~ thirty metres and there is',
		'little weed. The water was 2.9 m wide. We took five verticals,',
		'0.5 m apart, and at each one the current meter was held at six',
		'tenths of the depth and ran for 60 s. Tobias read the counter',
		'and I wrote. The two verticals at the banks were left out since',
		'the water hardly moves there.'
	),
	VELOCITY_TABLE,
	space(),
	text(
		'Each strip is b = 0.5 m wide, so its part of the discharge is',
		'b d v, which is the last column. For the middle strip that is',
		'0.5 times 0.47 times ~0.36~ 0.38, so 0.089 m3 per second.',
		'',
		'The sum over the strips gives',
		'          Q = 0.020 + 0.068 + 0.089 + 0.060 + 0.013',
		'          Q = 0.250 m3 per second.',
		'',
		'That is about what the weir board downstream says for the same',
		'hour (0.24), so we trust the meter.'
	)
];
const ANSWER_2: Block[] = [
	label('2a)'),
	text(
		'The largest error is in the velocity. Three runs at x = 1.5 gave',
		'0.38, 0.36 and 0.40, so about 5 % either way. The tape reads to',
		'one centimetre in fifty, which ~hardly~ matters less, and the rod',
		'to one centimetre in forty, which is 2.5 %. The banks slope, so',
		'the two outer strips are not rectangles; we think that costs 4 %',
		'of the whole at most, because little water goes through them.',
		'The counter itself may miss a turn in a minute, which is nothing.'
	),
	space(),
	label('2b)'),
	text(
		'The errors have nothing to do with each other, so we add them',
		'as squares:',
		'          sqrt(25 + 6.25 + 16) = 6.9, say 7 %.',
		'So Q = 0.250 with an error of ~0.025~ 0.018 m3 per second.',
		'',
		'Halving the error would take four times as many runs, which we',
		'had no time for before the rain came. A second meter beside the',
		'first would have told us whether the spread is the water or us.'
	)
];
const ANSWER_3: Block[] = [
	label('Q3'),
	{ kind: 'graph', title: '12 to 14 Oct', axes: ['Q / m3 s-1', 't / h'] },
	text(
		'The rain stopped at about 9 h. The peak comes near 16 h, so the',
		'lag is 7 hours. The recession is slower than the rise because',
		'the peat ~keeps~ lets its water go slowly, and the ditches carry',
		'it on for two days.',
		'',
		'Below the broken line is what the Lode would have carried anyway,',
		'about 0.2 m3 per second, and we drew it straight from the foot',
		'of the rise to where the curve bends.'
	)
];
const ANSWER_4: Block[] = [
	label('Q4'),
	text(
		'If the reeds are cut the water meets less resistance, so the same',
		'discharge passes at a lower level. The rating curve we made in',
		'summer will then give too much water, and has to be measured',
		'again in winter.',
		'',
		'How much it changes can be seen from the two gaugings of last',
		'year: at a level of 0.62 m the Lode carried 0.25 with reeds and',
		'~0.33~ 0.31 without. So anybody who reads the board in December',
		'and uses the summer curve is wrong by a quarter. It would be',
		'best to write on the board which curve holds, and to gauge once',
		'after each cutting, at two levels at least.'
	)
];

const WEIR_1: Block[] = [
	label('1)'),
	text(
		'We set the level up twice between the bench mark at the mill',
		'and the sill of the weir, both times about half way, so that',
		'the error of the bubble falls out.'
	),
	{
		kind: 'table',
		rows: [
			['point', 'back', 'fore', 'rise', 'level / m'],
			['BM', '1.482', '', '', '2.066'],
			['1', '1.318', '1.207', '0.275', '2.341'],
			['2', '0.944', '1.622', '-0.304', '2.037'],
			['sill', '', '0.640', '0.304', '2.341']
		]
	},
	space(),
	text(
		'Back sight 1.482, fore sight 1.207, so the rise to point 1 is',
		'~0.285~ 0.275 m. Point 1 lies on the sheet piling, and point 2',
		'on the stone with the ring. From there the sill is 0.304 m up.',
		'',
		'Check: the sum of the back sights less the sum of the fore',
		'sights is 3.744 - 3.469 = 0.275, and that is the difference of',
		'the last level and the first.'
	)
];
const WEIR_2: Block[] = [
	label('2)'),
	text(
		'Going back from B to A the sum of the rises should be the sum',
		'of the falls. We found 0.006 m left over in 180 m, which is',
		'inside what the book allows:',
		'          12 sqrt(0.18) = ~4.9~ 5.1 mm for each way,',
		'so 10 mm for both of them together.',
		'',
		'We shared the 6 mm out over the four set-ups, 1.5 mm each,',
		'because no sight was longer than the others. Where the sights',
		'differ one would share by their length.',
		'',
		'The largest part of it must come from the soft bank at point 3.',
		'The tripod sank a little between the two readings, and we only',
		'saw it when the bubble had run off. Next time we would put it',
		'on the planks, and read the fore sight first.'
	)
];
const WEIR_3: Block[] = [
	label('3)'),
	text(
		'The weir sill is at 2.341 m above the datum. Flood water stood',
		'at 3.02 m on the gauge board, so 0.68 m over the sill.',
		'',
		'For a broad sill of width b = 4.2 m we take',
		'          Q = 1.7 b h sqrt(h)',
		'          Q = 1.7 x 4.2 x 0.68 x 0.825',
		'          Q = ~4.5~ 4.0 m3 per second.',
		'',
		'The mark on the wall of the mill says 3.10 for the flood before',
		'that. Then h was 0.76 m and the same way gives 4.7 m3 per second.',
		'So eight centimetres at the board are a sixth of the water, and',
		'a board that is read to the nearest five is not good enough.'
	)
];
const RAIN_1: Block[] = [
	label('1'),
	text(
		'The funnel is 127 mm across, so its area is 126.7 square cm,',
		'and 12.67 ml in the bottle are one millimetre of rain. We read',
		'the bottle every morning at eight.'
	),
	{
		kind: 'table',
		rows: [
			['day', 'ml', 'mm'],
			['Mon', '41', '3.2'],
			['Tue', '0', '0.0'],
			['Wed', '118', '9.3'],
			['Thu', '22', '1.7']
		]
	},
	space(),
	text(
		'Sum over the four days: 14.2 mm.',
		'',
		'On Wednesday the bottle was nearly full, and we emptied it into',
		'the ~tall~ measuring glass in two goes: 70 and 48 ml. A tenth of a',
		'millimetre is 1.3 ml, and the glass has lines at every ml, so',
		'the reading is not what makes the error here.'
	)
];
const RAIN_2: Block[] = [
	label('2'),
	text(
		'Wind carries drops past the funnel, so the gauge reads low. A',
		'fence at the same height as the rim, three metres away, made',
		'our reading 6 % larger on Wednesday.',
		'',
		'Some of the rain also stays in the funnel and dries there. We',
		'weighed it dry and wet: the difference is ~3~ 2.6 g, so 0.2 mm',
		'each time it rains and dries again. On a day with four showers',
		'that may be 0.8 mm, more than the wind takes on a calm day.',
		'',
		'Snow was not measured. It would lie on the rim and be blown off',
		'before it melts, and the gauge would have to be warmed.'
	)
];

/** Shorter ones, for smaller paper and other mishaps. */
const LODE_2: Block[] = [
	label('2a)'),
	text(
		'The largest error is in the velocity. Three',
		'runs at x = 1.5 gave 0.38, 0.36 and 0.40, so',
		'about 5 % either way. The tape reads to 1 cm',
		'and the rod to 1 cm in 40, which is 2.5 %.'
	),
	space(),
	label('2b)'),
	text(
		'Adding them as squares:',
		'sqrt(25 + 6.25 + 4) = 5.9, say 6 %.',
		'So Q = 0.250 with an error of 0.015.',
		'Halving the error would take four times as',
		'many runs, which we had no time for.'
	)
];
const LODE_3: Block[] = [
	label('Q3'),
	{ kind: 'graph', title: '12 to 14 Oct', axes: ['Q / m3 s-1', 't / h'] },
	text(
		'The rain stopped at about 9 h. The peak',
		'comes near 16 h, so the lag is 7 hours.',
		'The recession is slower than the rise',
		'because the peat lets its water go slowly.'
	)
];
const LODE_4: Block[] = [
	label('Q4'),
	text(
		'If the reeds are cut the water meets less',
		'resistance, so the same discharge passes at',
		'a lower level. The rating curve we made in',
		'summer will then give too much water, and',
		'has to be measured again in winter.'
	)
];

const ilka = { name: 'Ilka Brandsma', paper: 'A4', ink: BLUE, hand: 2 } as const;

const SHOTS: readonly Shot[] = [
	{
		file: 'gauging-the-lode/IMG_2041.jpg',
		page: { ...ilka, seed: 41, ruling: 'ruled', pageNumber: 'p. 1/4', blocks: ANSWER_1 },
		photo: { seed: 141, desk: 'wood', fill: 0.86, slant: 3, tilt: 7, falloff: 0.3, warmth: 0.7, blur: 0.5 }
	},
	{
		file: 'gauging-the-lode/IMG_2042.jpg',
		page: { ...ilka, seed: 42, ruling: 'ruled', pageNumber: 'p. 2/4', blocks: ANSWER_2 },
		photo: { seed: 142, desk: 'wood', lies: 90, fill: 0.9, slant: -4, tilt: 6, falloff: 0.35, warmth: 0.6 }
	},
	{
		file: 'gauging-the-lode/IMG_2043.jpg',
		page: { ...ilka, seed: 43, ruling: 'squared', pageNumber: 'p. 3/4', blocks: ANSWER_3 },
		photo: { seed: 143, desk: 'white', fill: 0.84, slant: -3, tilt: 9, shadow: 0.85, warmth: 0.4, blur: 0.5 }
	},
	{
		file: 'gauging-the-lode/IMG_2044.jpg',
		page: { ...ilka, seed: 44, ruling: 'ruled', pageNumber: 'p. 4/4', blocks: ANSWER_4 },
		photo: { seed: 144, desk: 'dark', fill: 0.85, slant: 5, tilt: 5, falloff: 0.2, warmth: 0.3, finger: true }
	},
	{
		file: 'gauging-the-lode/IMG_2045 (2).jpg',
		page: { ...ilka, seed: 42, ruling: 'ruled', pageNumber: 'p. 2/4', blocks: ANSWER_2 },
		photo: { seed: 145, desk: 'wood', fill: 0.8, slant: 6, tilt: 8, falloff: 0.45, warmth: 0.8, blur: 2.6 }
	},
	{
		file: 'more/scan 14 (2).jpg',
		page: {
			...ilka,
			seed: 51,
			ruling: 'plain',
			ink: PENCIL,
			pressure: 0.4,
			pageNumber: 'p. 1/3',
			blocks: WEIR_1
		},
		photo: { seed: 151, desk: 'cloth', fill: 0.84, slant: -5, tilt: 8, falloff: 0.3, warmth: 0.5 }
	},
	{
		file: 'more/upside down.jpg',
		page: {
			...ilka,
			seed: 52,
			ruling: 'ruled',
			pageNumber: 'p. 2/3',
			blocks: WEIR_2
		},
		photo: { seed: 152, desk: 'stone', lies: 180, fill: 0.84, slant: 2, tilt: 6, falloff: 0.3 }
	},
	{
		file: 'more/lamp on the page.jpg',
		page: {
			...ilka,
			seed: 53,
			ruling: 'ruled',
			pageNumber: 'p. 3/3',
			blocks: WEIR_3
		},
		photo: {
			seed: 153,
			desk: 'wood',
			fill: 0.84,
			slant: 3,
			tilt: 7,
			glare: 0.9,
			warmth: 0.6,
			underneath: true
		}
	},
	{
		file: 'more/open notebook.jpg',
		page: { ...ilka, seed: 81, paper: 'A5', ruling: 'ruled', ink: BLUE, pageNumber: '1/2', blocks: LODE_3 },
		opposite: {
			...ilka,
			seed: 82,
			paper: 'A5',
			ruling: 'ruled',
			ink: BLUE,
			pageNumber: '2/2',
			blocks: LODE_4
		},
		photo: { seed: 181, desk: 'wood', lies: 90, fill: 0.88, slant: 2, tilt: 7, falloff: 0.3, warmth: 0.5 }
	},
	{
		file: 'more/torn, with a pen.jpg',
		page: { ...ilka, seed: 83, ruling: 'squared', ink: BLACK, pageNumber: '3/4', blocks: LODE_2 },
		photo: {
			seed: 183,
			desk: 'stone',
			fill: 0.84,
			slant: -4,
			tilt: 9,
			falloff: 0.3,
			corner: 'torn',
			pen: true
		}
	},
	{
		file: 'more/cut off.jpg',
		page: { ...ilka, seed: 44, ruling: 'ruled', pageNumber: 'p. 4/4', blocks: LODE_4 },
		photo: { seed: 154, desk: 'dark', fill: 0.95, shift: [0, 0.12], slant: 2, tilt: 4, falloff: 0.2 }
	},
	{
		file: 'more/blank.jpg',
		page: { ...ilka, name: undefined, seed: 55, ruling: 'ruled', blocks: [] },
		photo: { seed: 155, desk: 'wood', fill: 0.84, slant: -2, tilt: 5, falloff: 0.25 }
	},
	{
		file: 'more/thin paper.jpg',
		page: { ...ilka, seed: 56, ruling: 'plain', pageNumber: 'p. 1/2', blocks: LODE_4 },
		back: { ...ilka, seed: 57, ruling: 'plain', blocks: LODE_2 },
		photo: { seed: 156, desk: 'wood', fill: 0.84, slant: 4, tilt: 5, falloff: 0.2 }
	},
	{
		file: 'rain-gauge/rain 1.jpg',
		page: {
			...ilka,
			seed: 61,
			ruling: 'squared',
			pageNumber: '1 of 2',
			blocks: RAIN_1
		},
		photo: { seed: 161, desk: 'wood', fill: 0.86, slant: -2, tilt: 6, falloff: 0.25, warmth: 0.5 }
	},
	{
		file: 'rain-gauge/rain 2.jpg',
		page: {
			...ilka,
			seed: 62,
			ruling: 'squared',
			ink: BLACK,
			pageNumber: '2 of 2',
			blocks: RAIN_2
		},
		photo: { seed: 162, desk: 'dark', fill: 0.86, slant: 3, tilt: 6, falloff: 0.3, warmth: 0.3 }
	}
];

/** Draws every `of`-th photograph from `first` on; those that are there already are left. */
export async function makePictures(folder: string, first = 0, of = 1): Promise<void> {
	for (const [i, shot] of SHOTS.entries()) {
		if (i % of === first) await unlessThere(join(folder, shot.file), (path) => makeShot(path, shot));
	}
	if (first === 0) await makeOddFiles(folder);
}

async function unlessThere(path: string, make: (path: string) => Promise<void>): Promise<void> {
	try {
		await access(path);
	} catch {
		await mkdir(join(path, '..'), { recursive: true });
		await make(path);
	}
}

function draw(spec: Shot['page'], back?: Picture) {
	return writtenPage({ ...spec, hand: hands()[spec.hand]!, scale: SCALE, showThrough: back });
}

async function makeShot(path: string, shot: Shot): Promise<void> {
	const back = shot.back && draw(shot.back).picture;
	const page = draw(shot.page, back);
	const { picture, corners, halves, turn } = photograph(page.picture, {
		...shot.photo,
		size: shot.size ?? SIZE,
		opposite: shot.opposite && draw(shot.opposite).picture
	});
	const truth = { corners, halves, turn, labels: page.labels };
	await writeFile(path.replace(/\.jpg$/, '.truth.json'), JSON.stringify(truth, null, '\t'));
	await writeFile(path, await jpeg(picture));
}

function jpeg({ data, width, height, channels }: Picture): Promise<Buffer> {
	return sharp(data, { raw: { width, height, channels } }).jpeg({ quality: 88 }).toBuffer();
}

/** A scanner's PDF of two pages, and files that cannot be used. */
async function makeOddFiles(folder: string): Promise<void> {
	await unlessThere(join(folder, 'more/from the scanner.pdf'), async (path) => {
		const pages = [LODE_3, LODE_4].map((blocks, i) =>
			draw({ ...ilka, seed: 71 + i, ruling: 'plain', pageNumber: `${i + 3}/4`, blocks })
		);
		const images = await Promise.all(
			pages.map(async ({ picture }) => ({
				dotsPerInch: SCALE * 25.4,
				image: {
					format: 'jpeg' as const,
					width: picture.width,
					height: picture.height,
					channels: 3 as const,
					bytes: await jpeg(picture)
				}
			}))
		);
		const pdf = await makePdf({
			title: 'Scan',
			author: '',
			language: 'en',
			created: new Date(0),
			pages: images,
			bookmarks: []
		});
		await writeFile(path, pdf);
	});
	await unlessThere(join(folder, 'more/not a picture.jpg'), (path) =>
		writeFile(path, 'These are words, whatever the name of the file says.\n')
	);
}
