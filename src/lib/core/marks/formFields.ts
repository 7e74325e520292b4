import { signedArea } from '../sheet/geometry';
import { MARK_LIMITS, type Mark } from './mark';
import { BREADTH, LETTERS, type PageShape } from './onPage';

/** A field of a form that came as PDF, as it lies on the page's picture. */
export interface FormField {
	/** Of the mark that fills it. */
	readonly id: string;
	readonly label: string;
	/** Words are typed, a tick is made or not, one of several words is chosen. */
	readonly kind: 'words' | 'tick' | 'choice';
	/** Left, top, width and height as fractions of the picture. */
	readonly box: readonly [number, number, number, number];
	/** Several lines of words. */
	readonly isLong: boolean;
	/** What may be chosen. */
	readonly options: readonly string[];
	/** Of ticks of which only one may be made: what they have in common. */
	readonly oneOf: string | null;
}

/** Of a line's height, in a field of one line. */
const FILLS = 0.86;
/** Millimetres from line to line at most, and in fields of several lines as usual. */
const MOST_PITCH = 7;
const USUAL_PITCH = 5.5;
/** Of a tick, as fractions of its box. */
const TICK = [
	[0.18, 0.55],
	[0.42, 0.82],
	[0.86, 0.16]
] as const;
const TICK_WIDTH = 0.7;

/** What a person put into a field, among what was added to the page; '' where it is empty. */
export function valueIn({ id, kind }: FormField, marks: readonly Mark[]): string {
	const mark = marks.find((m) => m.id === id);
	if (!mark) return '';
	if (kind === 'tick') return 'yes';
	return mark.kind === 'words' ? mark.text : '';
}

/**
 * What fills a field: words as large as its box lets them be, or a tick of the pen.
 *
 * @param value what was typed or chosen; of a tick anything but ''
 * @param shape how the page is made of its picture
 * @param picture in pixels
 * @returns null where the value is empty
 */
export function fillingOf(
	field: FormField,
	value: string,
	shape: PageShape,
	picture: { readonly width: number; readonly height: number }
): Mark | null {
	const text = value.trim().slice(0, MARK_LIMITS.letters);
	if (text === '') return null;
	const [left, top, width, height] = [
		field.box[0] * picture.width,
		field.box[1] * picture.height,
		field.box[2] * picture.width,
		field.box[3] * picture.height
	];
	const { id } = field;
	if (field.kind === 'tick') {
		const points = TICK.map(([x, y]) => [left + x * width, top + y * height, 0.5] as const);
		return { id, kind: 'pen', colour: 'ink', width: TICK_WIDTH, points };
	}
	const pixels = pixelsPerMillimetre(shape);
	const [wide, high] = [width / pixels, height / pixels];
	const { pitch, lines } = field.isLong ? inLines(text, wide, high) : inOneLine(text, wide, high);
	const size = Math.round(100 * Math.min(MARK_LIMITS.size[1], Math.max(MARK_LIMITS.size[0], pitch))) / 100;
	const down = field.isLong ? 0 : (high - size) / 2;
	const at = [left + 0.3 * size * pixels, top + down * pixels] as const;
	return { id, kind: 'words', colour: 'ink', size, at, text: lines.join('\n') };
}

/** Pixels of the picture for a millimetre of the sheet. */
function pixelsPerMillimetre({ corners, width, height, dotsPerInch }: PageShape): number {
	const onPage = Math.sqrt(Math.abs(signedArea(corners)) / (width * height));
	return (onPage * dotsPerInch) / 25.4;
}

function inOneLine(text: string, wide: number, high: number) {
	const line = text.replace(/\s+/g, ' ');
	const pitch = Math.min(FILLS * high, MOST_PITCH, wide / (line.length * LETTERS * BREADTH + 0.6));
	return { pitch, lines: [line] };
}

/** Words broken into lines that the box holds, smaller where they are many. */
function inLines(text: string, wide: number, high: number) {
	let pitch = Math.min(USUAL_PITCH, high);
	let lines = broken(text, wide, pitch);
	while (lines.length * pitch > high && pitch > MARK_LIMITS.size[0]) {
		pitch *= 0.9;
		lines = broken(text, wide, pitch);
	}
	return { pitch, lines };
}

function broken(text: string, wide: number, pitch: number): string[] {
	const letters = Math.max(1, Math.floor(wide / (pitch * LETTERS * BREADTH) - 1));
	return text.split('\n').flatMap((paragraph) => {
		const lines = [''];
		for (const word of paragraph.split(/\s+/)) {
			const line = lines.at(-1)!;
			if (line !== '' && line.length + 1 + word.length > letters) lines.push(word);
			else lines[lines.length - 1] = line === '' ? word : `${line} ${word}`;
		}
		return lines;
	});
}
