import { parseArgs } from 'node:util';
import { basename } from 'node:path';
import { cornersOf, turnOf } from '../src/lib/core/page/effective';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { readNumber } from '../src/lib/core/reading/pageNumber';
import type { PageReading } from '../src/lib/core/reading/pageReading';
import { nameOnPage } from '../src/lib/core/reading/personName';
import { usualTone } from '../src/lib/core/tone/usualTone';
import { openSource } from '../src/lib/server/codec/source';
import { SourceError } from '../src/lib/server/codec/sourceError';
import { filesIn } from './files';
import { preparePicture } from './pages';
import { readRules } from './rules';

/** `inspect [--rules R.json] FILE…`: one JSON object a page, one a line. Returns the exit code. */
export async function inspect(args: string[]): Promise<number> {
	const { values, positionals } = parseArgs({
		args,
		allowPositionals: true,
		options: { rules: { type: 'string' } }
	});
	if (positionals.length === 0) throw new Error('Use: membrana inspect [--rules R.json] FILE…');
	const rules = values.rules ? await readRules(values.rules) : null;
	const tone = usualTone(rules ?? {});
	const labels = labelForms(rules?.questions ?? null);
	let code = 0;
	for (const argument of positionals) {
		for (const { path, source, problem } of await inputs(argument)) {
			const fine = problem === null && (await one(path, source));
			if (problem !== null) fail(source, problem);
			if (!fine) code = 1;
		}
	}
	return code;

	/** Inspects one file; false when it cannot be used, which has been said then. */
	async function one(path: string, source: string): Promise<boolean> {
		try {
			const contents = await openSource(path);
			for (let index = 0; index < contents.pictures; index++) {
				const place = { id: `${source}-${index}`, source, sourcePage: index };
				const made = preparePicture(path, contents.type, place, tone, labels, rules?.pages?.size);
				for await (const { page, picture, facts, reading, milliseconds } of made) {
					const { score, verdict, reasons } = facts.legibility;
					print({
						source,
						sourcePage: index,
						...(page.half === undefined ? {} : { half: page.half }),
						width: picture.width,
						height: picture.height,
						outline: {
							corners: cornersOf(page, picture).map(([x, y]) => [round(x), round(y)]),
							confidence: round(picture.outline.confidence, 3)
						},
						turn: turnOf(page, picture),
						size: facts.size,
						blank: facts.blank,
						legibility: { score, verdict, reasons },
						reading: readingReport(reading),
						fingerprint: facts.fingerprint,
						milliseconds
					});
				}
			}
		} catch (error) {
			fail(source, sentenceFor(error, path));
			return false;
		}
		return true;
	}
}

/** What was read off a page, as `inspect` says it. */
function readingReport({ lines, labels, numbers }: PageReading) {
	const name = nameOnPage(lines, []);
	let question = '';
	return {
		name: name && { text: name.text, confidence: name.confidence },
		pageNumber: numberReport(numbers),
		labels: labels.flatMap(({ y, text, options: [best] }) => {
			if (!best || best.probability < 0.5) return [];
			// "(b)" after "3 (a)" on the same page is 3b.
			question = best.question ?? question;
			return [
				{
					text,
					question: question + (best.part ?? ''),
					y: round(y, 3),
					confidence: round(best.probability, 3)
				}
			];
		}),
		text: lines.map((l) => l.text).join('\n')
	};
}

function numberReport(numbers: PageReading['numbers']) {
	const read = readNumber(numbers);
	return read && { number: read.number, of: read.of, confidence: round(read.probability, 3) };
}

function fail(source: string, problem: string): void {
	print({ source, error: problem });
	process.stderr.write(`${source}: ${problem}\n`);
}

/** The files that an argument stands for, or why it stands for none. */
async function inputs(argument: string): Promise<{ path: string; source: string; problem: string | null }[]> {
	try {
		return (await filesIn(argument)).map(({ path, name }) => ({ path, source: name, problem: null }));
	} catch (error) {
		return [{ path: argument, source: basename(argument), problem: sentenceFor(error, argument) }];
	}
}

export function sentenceFor(error: unknown, path: string): string {
	if (error instanceof SourceError) return error.message;
	if ((error as NodeJS.ErrnoException).code === 'ENOENT') return `There is no file ${path}.`;
	if ((error as NodeJS.ErrnoException).code === 'EISDIR') return `${path} is a folder; name the files in it.`;
	throw error;
}

function print(value: unknown): void {
	process.stdout.write(`${JSON.stringify(value)}\n`);
}

function round(value: number, digits = 1): number {
	return Number(value.toFixed(digits));
}
