import {
	CLASSES,
	classOf,
	NOTHING,
	SPACE,
	type LinePosterior
} from '../../src/lib/core/reading/linePosterior';
import type { LabelCandidate, LabelOption } from '../../src/lib/core/reading/labelCandidates';
import type { PageReading, TextLine } from '../../src/lib/core/reading/pageReading';
import type { NumberOption } from '../../src/lib/core/reading/pageNumber';
import type { ReadLine } from '../../src/lib/core/reading/readLine';

/** A recogniser's output that is `sure` of each character of a text; otherwise it takes it for nothing. */
export function posterior(text: string, sure = 0.995): LinePosterior {
	const steps = 2 * text.length + 1;
	const data = new Float32Array(steps * CLASSES);
	for (let t = 0; t < steps; t++) {
		const k = t % 2 === 0 ? NOTHING : classOf(text[(t - 1) / 2]!);
		data[t * CLASSES + (k === NOTHING ? SPACE : NOTHING)] = 1 - sure;
		data[t * CLASSES + k] = sure;
	}
	return { steps, data };
}

/** A line that reads one text with this probability, and otherwise another of the same length. */
export function mixed(one: string, other: string, share: number): LinePosterior {
	const [a, b] = [posterior(one), posterior(other)];
	return { steps: a.steps, data: a.data.map((p, i) => share * p + (1 - share) * b.data[i]!) };
}

/** A line as read, with its box in pixels. */
export function readLine(
	text: string,
	[x0, y0, x1, y1]: readonly [number, number, number, number],
	kind: ReadLine['kind'] = 'line',
	sure = 0.995
): ReadLine {
	return {
		box: [
			[x0, y0],
			[x1, y0],
			[x1, y1],
			[x0, y1]
		],
		kind,
		text,
		confidence: sure,
		posteriors: [posterior(text, sure)]
	};
}

/** Lines of running text from a height on, on a page of 1400 x 2000 pixels. */
export function textLines(from: number, texts: readonly string[]): ReadLine[] {
	return texts.map((text, i) =>
		readLine(text, [210, from + 60 * i, 210 + 18 * text.length, from + 60 * i + 50])
	);
}

/** A label that was read: "3", "3b" or "b", at a height. */
export function label(y: number, name: string, probability = 0.97, x = 0.04): LabelCandidate {
	return { x, y, fromBody: -3, framed: false, text: name, options: [option(name, probability)] };
}

export function option(name: string, probability: number): LabelOption {
	const [, question, part] = /^(\d*)([a-z]?)$/.exec(name)!;
	return { question: question || null, part: part || null, form: 'signed', probability };
}

/** A page's reading, with lines a thirtieth of the page apart from below the header on. */
export function reading(change: {
	readonly labels?: readonly LabelCandidate[];
	readonly numbers?: readonly NumberOption[];
	readonly texts?: readonly string[];
}): PageReading {
	const lines = (change.texts ?? []).map((text, i): TextLine => ({
		box: [0.15, 0.09 + i / 30, Math.min(0.9, 0.15 + 0.013 * text.length), 0.115 + i / 30],
		text,
		confidence: 0.95
	}));
	return { lines, labels: change.labels ?? [], numbers: change.numbers ?? [] };
}
