import { parseArgs } from 'node:util';
import { basename } from 'node:path';
import { turnOf } from '../src/lib/core/page/effective';
import type { Page } from '../src/lib/core/packet/packet';
import { usualTone } from '../src/lib/core/tone/usualTone';
import { openSource } from '../src/lib/server/codec/source';
import { SourceError } from '../src/lib/server/codec/sourceError';
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
	let code = 0;
	for (const path of positionals) {
		const source = basename(path);
		try {
			const contents = await openSource(path);
			for (let index = 0; index < contents.pictures; index++) {
				const page: Page = {
					id: `${source}-${index}`,
					source,
					sourcePage: index,
					corners: null,
					turn: null,
					tone: null
				};
				const { picture, facts, milliseconds } = await preparePicture(
					path,
					contents.type,
					page,
					tone,
					rules?.pages?.size
				);
				const { score, verdict, reasons } = facts.legibility;
				print({
					source,
					sourcePage: index,
					width: picture.width,
					height: picture.height,
					outline: {
						corners: picture.outline.corners.map(([x, y]) => [round(x), round(y)]),
						confidence: round(picture.outline.confidence, 3)
					},
					turn: turnOf(page, picture),
					size: facts.size,
					blank: facts.blank,
					legibility: { score, verdict, reasons },
					reading: null,
					fingerprint: facts.fingerprint,
					milliseconds
				});
			}
		} catch (error) {
			const problem = sentenceFor(error, path);
			print({ source, error: problem });
			process.stderr.write(`${source}: ${problem}\n`);
			code = 1;
		}
	}
	return code;
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
