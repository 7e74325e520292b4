import { parseArgs } from 'node:util';
import { availableParallelism } from 'node:os';
import { basename } from 'node:path';
import { blankOf } from '../src/lib/core/page/blank';
import { degreesOf } from '../src/lib/core/sheet/askew';
import { sagOf } from '../src/lib/core/sheet/bend';
import { cornersOf, turnOf } from '../src/lib/core/page/effective';
import { weighedByOthers } from '../src/lib/core/reading/alikeLabels';
import { namedLabels } from '../src/lib/core/reading/namedLabels';
import { readNumber } from '../src/lib/core/reading/pageNumber';
import type { PageReading } from '../src/lib/core/reading/pageReading';
import { nameOnPage } from '../src/lib/core/reading/personName';
import { usualTone } from '../src/lib/core/tone/usualTone';
import { SourceError } from '../src/lib/server/codec/sourceError';
import type { WholePage } from '../src/lib/server/work/wholePicture';
import { EveryCore } from './everyCore';
import { filesIn } from './files';
import { readRules } from './rules';

/** So many files are under way at once. */
const AHEAD = 2 * availableParallelism() + 2;

/** `inspect [--rules R.json] [--no-reading] FILE…`: one JSON object a page, one a line. Returns the exit code. */
export async function inspect(args: string[]): Promise<number> {
	const { values, positionals } = parseArgs({
		args,
		allowPositionals: true,
		options: { rules: { type: 'string' }, 'no-reading': { type: 'boolean' } }
	});
	if (positionals.length === 0)
		throw new Error('Use: membrana inspect [--rules R.json] [--no-reading] FILE…');
	const rules = values.rules ? await readRules(values.rules) : null;
	const cores = new EveryCore();
	const files = (await Promise.all(positionals.map(inputs))).flat();
	// Files are begun a few ahead of the one that is printed next, so that neither processors nor memory run out.
	const begun: Promise<{ pages: WholePage[] } | { problem: string }>[] = [];
	let code = 0;
	for (const [i, { source }] of files.entries()) {
		while (begun.length < Math.min(files.length, i + AHEAD)) begun.push(look(files[begun.length]!));
		const answer = await begun[i]!;
		if ('problem' in answer) {
			fail(source, answer.problem);
			code = 1;
		} else for (const page of answer.pages) print(reportOf(source, page));
	}
	await cores.close();
	return code;

	async function look({
		path,
		source,
		problem
	}: Input): Promise<{ pages: WholePage[] } | { problem: string }> {
		if (problem !== null) return { problem };
		try {
			return await cores.pagesOfFile(path, (index) => ({
				picture: { id: `${source}-${index}`, source, sourcePage: index },
				tone: usualTone(rules ?? {}),
				questions: rules?.questions ?? null,
				...(rules?.pages?.size ? { paper: rules.pages.size } : {}),
				reading: !values['no-reading'],
				images: false
			}));
		} catch (error) {
			return { problem: sentenceFor(error, path) };
		}
	}
}

/** A page as `inspect` says it. */
export function reportOf(
	source: string,
	{ page, picture, facts, reading, milliseconds }: Omit<WholePage, 'made'>
) {
	const { score, verdict, reasons } = facts.legibility;
	return {
		source,
		sourcePage: page.sourcePage,
		...(page.half === undefined ? {} : { half: page.half }),
		width: picture.width,
		height: picture.height,
		outline: {
			corners: cornersOf(page, picture).map(([x, y]) => [round(x), round(y)]),
			confidence: round(picture.outline.confidence, 3),
			...(picture.outline.perhaps && page.half === undefined
				? { perhaps: picture.outline.perhaps.map(([x, y]) => [round(x), round(y)]) }
				: {})
		},
		...(picture.straight ? { straightened: round(-degreesOf(picture.straight), 2) } : {}),
		...(facts.bend ? { bent: round(sagOf(facts.bend), 4) } : {}),
		turn: turnOf(page, picture),
		size: facts.size,
		blank: blankOf(facts, reading) === 'yes',
		legibility: { score, verdict, reasons },
		...(reading ? { reading: readingReport(reading) } : {}),
		fingerprint: facts.fingerprint,
		milliseconds
	};
}

/** What was read off a page, as `inspect` says it. */
function readingReport({ lines, labels, numbers }: PageReading) {
	const name = nameOnPage({ lines }, []);
	return {
		name: name && { text: name.text, confidence: name.confidence },
		pageNumber: numberReport(numbers),
		labels: namedLabels(weighedByOthers([labels])[0]!).map((label) => ({
			...label,
			y: round(label.y, 3),
			confidence: round(label.confidence, 3)
		})),
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

interface Input {
	readonly path: string;
	readonly source: string;
	readonly problem: string | null;
}

/** The files that an argument stands for, or why it stands for none. */
async function inputs(argument: string): Promise<Input[]> {
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
