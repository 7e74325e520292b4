import { createCanvas } from '@napi-rs/canvas';
import type { DigitShape } from '../../demo/generator/penman';
import type { Random } from '../../demo/generator/random';
import type { Answer, Block, LabelStyle } from './answers';

/** A4 in pixels of a style sheet. */
export const SHEET = [794, 1123] as const;
/** What is lower than this on a sheet may run into the foot. */
export const LAST_LINE = 1055;

/** How somebody writes, and on what. */
export interface BrowserWriter {
	/** A font as a data address. */
	readonly font: string;
	/** Digits that people wrote in place of the font's; null: the font's own. */
	readonly digits: readonly (readonly DigitShape[])[] | null;
	readonly ink: string;
	/** Size of letters and distance of lines, in pixels of a style sheet. */
	readonly size: number;
	readonly pitch: number;
	readonly paper: 'ruled' | 'squared' | 'plain';
	/** Of the paper, and of what is printed on it. */
	readonly colours: readonly [paper: string, ruling: string];
	/** How broad the squares of squared paper are, in pixels of a style sheet. */
	readonly square: number;
	/** How unevenly the pen goes: waves a pixel, and how far they go, in pixels. */
	readonly wobble: readonly [frequency: number, scale: number];
	/** Where lines begin. */
	readonly left: number;
	/** Degrees by which lines slope. */
	readonly slope: number;
	readonly style: LabelStyle;
	/** Labels hang before the lines, run into them, stand near the sheet's edge, or have a line of their own. */
	readonly place: 'hanging' | 'in the line' | 'at the edge' | 'own line';
	readonly underlined: boolean;
	readonly boxed: boolean;
	readonly bold: boolean;
	/** Of the numbers of pages, # for the number and % for their count; null: none. */
	readonly numbering: string | null;
	readonly nameAt: (typeof NAME_PLACES)[number];
	readonly numberAt: 'top right' | 'top left' | 'foot middle' | 'foot right';
}

const INKS = ['#1b2a6b', '#15151c', '#20328a', '#2b2b2b', '#0e2f5c', '#666'];
const NAME_PLACES = ['left:60px', 'right:70px', 'left:300px'] as const;
const NUMBERINGS = ['#', '#/%', 'p. #', 'page # of %', '- # -', 'p #/%', null];

export function someWriter(
	random: Random,
	font: string,
	digits: BrowserWriter['digits'],
	style: LabelStyle
): BrowserWriter {
	const size = random.between(19, 29);
	const paper = random.pick(['ruled', 'ruled', 'squared', 'plain', 'plain'] as const);
	return {
		font,
		digits,
		style,
		ink: random.pick(INKS),
		size,
		pitch: random.chance(0.6) ? Math.max(30.24, size * 1.3) : size * random.between(1.35, 1.9),
		paper,
		colours: [
			random.pick(['#fdfcf7', '#fff', '#f6f4ec', '#fbfbff']),
			paper === 'ruled' ? random.pick(['#9fb6d6', '#b9c4cf', '#a8b8b0']) : '#b7c7dc'
		],
		square: random.pick([18.9, 18.9, 26.5]),
		wobble: [random.between(0.012, 0.03), random.between(2, 6)],
		left: random.between(60, 120),
		slope: random.between(-0.3, 0.4),
		place: style.heading
			? 'own line'
			: random.pick(['hanging', 'in the line', 'at the edge', 'own line'] as const),
		underlined: random.chance(0.3),
		boxed: !style.ringed && !style.heading && random.chance(0.12),
		bold: random.chance(0.15),
		nameAt: random.pick(NAME_PLACES),
		numbering: random.pick(NUMBERINGS),
		numberAt: random.pick(['top right', 'top left', 'foot middle', 'foot right'] as const)
	};
}

/** What a writer puts down as a sheet's number; null: nothing. */
export function numberOn({ numbering }: BrowserWriter, index: number, count: number): string | null {
	return numbering?.replace('#', String(index + 1)).replace('%', String(count)) ?? null;
}

/** What stands on one sheet. */
export interface SheetContent {
	readonly answers: readonly Answer[];
	readonly name: string | null;
	/** In the header, beside the name. */
	readonly title: string | null;
	readonly number: string | null;
}

/** Answers on as many sheets as they take, by an estimate of their heights. */
export function ontoSheets(answers: readonly Answer[], writer: BrowserWriter): Answer[][] {
	const sheets: Answer[][] = [[]];
	let room = SHEET[1] - 190;
	for (const answer of answers) {
		const own = writer.place === 'own line' ? 1 : 0;
		const lines = answer.body.reduce((sum, block) => sum + linesOf(block, writer), own + 0.5);
		if (lines * writer.pitch > room && sheets.at(-1)!.length > 0) {
			sheets.push([]);
			room = SHEET[1] - 130;
		}
		sheets.at(-1)!.push(answer);
		room -= lines * writer.pitch;
	}
	return sheets;
}

const CURVE_LINES = 4;

function linesOf(block: Block, { size, left }: BrowserWriter): number {
	if (block.kind === 'table') return 1.1 * block.rows.length;
	if (block.kind === 'curve') return CURVE_LINES;
	return Math.ceil((block.text.length * size * 0.5) / (SHEET[0] - left - 80));
}

/** A sheet as a document for a browser; labels are `.label`, what is answered is `.body`. */
export function sheetMarkup(random: Random, writer: BrowserWriter, content: SheetContent): string {
	const { size, pitch, ink, left, paper, wobble, colours } = writer;
	const write = (text: string) => text.split(' ').map((word) => wordMarkup(random, writer, word));
	const words = (text: string) => write(text).join(' ');
	const at = (place: string, text: string | null) =>
		text === null
			? ''
			: `<div class="outer${text === content.name ? ' name' : ''}" style="${place}">${words(text)}</div>`;
	const { number, name, title } = content;
	const numberAt = name !== null && writer.numberAt.startsWith('top') ? 'foot right' : writer.numberAt;
	const namePlace = `${writer.nameAt};top:${random.whole(24, 40)}px`;
	const titlePlace = `left:${random.whole(60, 400)}px;top:${random.whole(64, 80)}px`;
	const answers = content.answers.map((answer) => answerMarkup(random, writer, answer, write)).join('');
	const top = pitch * Math.ceil(100 / pitch) - (paper === 'ruled' ? 0.12 * size : 0);
	const displaced = `<filter id="hand" x="0" y="0" width="100%" height="100%"><feTurbulence type="turbulence"
		baseFrequency="${wobble[0]}" numOctaves="2" seed="${random.whole(1, 9999)}" result="noise"/>
		<feDisplacementMap in="SourceGraphic" in2="noise" scale="${wobble[1]}"
			xChannelSelector="R" yChannelSelector="G"/></filter>`;
	const margin =
		paper === 'ruled' && random.chance(0.35)
			? `<div style="position:absolute;left:${left - 12}px;top:0;bottom:0;border-left:1.5px solid #d99"></div>`
			: '';
	return `<!doctype html><style>
		@font-face { font-family: Hand; src: url(${writer.font}) }
		* { box-sizing: border-box }
		body { margin: 0; width: ${SHEET[0]}px; height: ${SHEET[1]}px; position: relative; overflow: hidden;
			background: ${ruling(writer)} ${colours[0]} }
		.ink { position: absolute; inset: 0; filter: url(#hand); font: ${size}px/${pitch}px Hand; color: ${ink} }
		.body { position: absolute; left: ${left}px; right: 60px; top: ${top}px; transform: rotate(${writer.slope}deg);
			transform-origin: 0 0 }
		.word, .label { display: inline-block }
		.label { white-space: nowrap }
		.gap { display: inline-block; width: ${random.between(0.15, 0.5)}em }
		.ringed { border: 2px solid; border-radius: 50%; padding: 0 0.35em; line-height: 1.35em }
		.boxed { border: 2px solid; padding: 0 0.25em; line-height: 1.25em }
		.underlined { border-bottom: 2px solid }
		.bold { -webkit-text-stroke: 0.8px }
		section { position: relative }
		.before { position: absolute; top: 0 }
		table { border-collapse: collapse; margin: 4px 30px }
		td { border: 1.5px solid; padding: 0 14px; line-height: ${pitch}px }
		.outer { position: absolute; white-space: nowrap }
		.digit { height: ${random.between(0.62, 0.8)}em; vertical-align: -0.06em }
	</style>${margin}<svg width="0" height="0" style="position:absolute">${displaced}</svg>
	<div class="ink">${at(namePlace, name)}${at(titlePlace, title)}${at(NUMBER_PLACES[numberAt], number)}
		<div class="body">${answers}</div></div>`;
}

const NUMBER_PLACES: Readonly<Record<BrowserWriter['numberAt'], string>> = {
	'top right': 'right:26px;top:24px',
	'top left': 'left:24px;top:24px',
	'foot middle': 'left:380px;bottom:24px',
	'foot right': 'right:36px;bottom:26px'
};

function ruling({ paper, pitch, square, colours: [, colour] }: BrowserWriter): string {
	if (paper === 'plain') return '';
	const lines = (every: number, turn = '') =>
		`repeating-linear-gradient(${turn} transparent 0 ${every - 1.1}px, ${colour} ${every - 1.1}px ${every}px)`;
	return paper === 'ruled' ? `${lines(pitch)},` : `${lines(square)}, ${lines(square, '90deg,')},`;
}

function answerMarkup(
	random: Random,
	writer: BrowserWriter,
	{ label, question, body }: Answer,
	write: (text: string) => string[]
): string {
	const { style, place, size, left, pitch } = writer;
	const classes = [
		'label',
		style.ringed ? 'ringed' : '',
		writer.boxed ? 'boxed' : '',
		writer.underlined && !style.ringed && !writer.boxed ? 'underlined' : '',
		writer.bold ? 'bold' : ''
	];
	const written = write(label).join('<span class="gap"> </span>');
	const shown = `<span class="${classes.join(' ')}" data-text="${label}" data-question="${question}">${written}</span>`;
	const running = place === 'in the line';
	const blocks = body.map((block, i) =>
		blockMarkup(random, writer, block, running && i === 0 ? shown : '', write)
	);
	const far =
		place === 'at the edge' ? left - random.whole(10, 26) : size * Math.min(3.2, 0.75 * label.length + 0.5);
	const before = `<div class="before" style="left:${-Math.min(far, left - 8)}px">${shown}</div>`;
	const first =
		place === 'own line'
			? `<div style="${style.heading && random.chance(0.25) ? 'text-align:center' : ''}">${shown}</div>`
			: running
				? body.length === 0
					? `<div>${shown}</div>`
					: ''
				: `${before}${body.length === 0 ? '<div>&nbsp;</div>' : ''}`;
	return `<section style="margin-bottom:${pitch * random.pick([0, 0.5, 1])}px">${first}${blocks.join('')}</section>`;
}

function blockMarkup(
	random: Random,
	{ ink, pitch }: BrowserWriter,
	block: Block,
	before: string,
	write: (text: string) => string[]
): string {
	const own = before === '' ? '' : `<div>${before}</div>`;
	if (block.kind === 'table') {
		const rows = block.rows.map(
			(row) => `<tr>${row.map((cell) => `<td>${write(cell).join(' ')}</td>`).join('')}</tr>`
		);
		return `${own}<table>${rows.join('')}</table>`;
	}
	if (block.kind === 'curve') {
		const points = block.heights.map((h, i) => `${10 + (290 * i) / block.heights.length},${5 + 105 * h}`);
		return `${own}<svg width="320" height="${CURVE_LINES * pitch}" viewBox="0 0 320 120" fill="none" stroke="${ink}"
			stroke-width="2"><path d="M10 5V115H310"/><polyline points="${points.join(' ')}"/></svg>`;
	}
	const indented = block.kind === 'formula' && random.chance(0.4) ? random.whole(30, 90) : 0;
	return `<div style="padding-left:${indented}px">${before} ${write(block.text).join(' ')}</div>`;
}

function wordMarkup(random: Random, { digits, ink }: BrowserWriter, word: string): string {
	const turned = `rotate(${random.between(-1.6, 1.6)}deg) translateY(${random.between(-0.05, 0.05)}em)`;
	const scaled = `scale(${random.between(0.94, 1.06)}, ${random.between(0.93, 1.07)})`;
	const letters = [...word].map((letter) =>
		digits && /\d/.test(letter) ? digitMarkup(random.pick(digits[Number(letter)]!), ink) : letter
	);
	return `<span class="word" style="transform:${turned} ${scaled}">${letters.join('')}</span>`;
}

/** Times that a digit is enlarged. */
const ENLARGED = 8;

function digitMarkup({ width, height, data }: DigitShape, ink: string): string {
	const small = createCanvas(width, height);
	const c = small.getContext('2d');
	c.fillStyle = ink;
	c.fillRect(0, 0, width, height);
	const shape = c.getImageData(0, 0, width, height);
	data.forEach((value, i) => (shape.data[4 * i + 3] = 255 * value));
	c.putImageData(shape, 0, 0);
	const large = createCanvas(width * ENLARGED, height * ENLARGED);
	const l = large.getContext('2d');
	l.imageSmoothingQuality = 'high';
	l.drawImage(small, 0, 0, large.width, large.height);
	const smooth = l.getImageData(0, 0, large.width, large.height);
	// A pen's line ends within a fraction of its width.
	for (let i = 3; i < smooth.data.length; i += 4) smooth.data[i] = 2.6 * (smooth.data[i]! - 90);
	l.putImageData(smooth, 0, 0);
	return `<img class="digit" src="${large.toDataURL('image/png')}">`;
}
