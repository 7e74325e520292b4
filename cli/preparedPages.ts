import { basename } from 'node:path';
import { byName } from '../src/lib/core/order/byName';
import type { NameReading } from '../src/lib/core/reading/personName';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import type { PageWeight } from '../src/lib/core/size/pageWeights';
import { usualTone } from '../src/lib/core/tone/usualTone';
import type { SourceType } from '../src/lib/server/codec/sniff';
import type { PageImages, WholePage } from '../src/lib/server/work/wholePicture';
import { EveryCore } from './everyCore';
import { filesIn, type InputFile } from './files';
import { sentenceFor } from './inspect';

/** A page with its image for the file. */
export type Prepared = Omit<WholePage, 'made' | 'milliseconds'> &
	PageImages & {
		readonly file: { readonly path: string; readonly type: SourceType };
		/** Ways to keep it smaller, once they were weighed. */
		readonly weights: readonly PageWeight[] | null;
		readonly takenAt: number | null;
		/** The name at the top, when it is another one than the person's. */
		readonly otherPerson: string | null;
		readonly name: NameReading | null;
	};

/**
 * Prepares and reads every page of some files, in the order of the files' names.
 * @throws Error with a sentence that names the file that cannot be used
 */
export async function preparePages(
	paths: readonly string[],
	rules: RuleSheet,
	{ reading, inStack }: { readonly reading: boolean; readonly inStack: boolean }
): Promise<Prepared[]> {
	const files: InputFile[] = [];
	for (const path of paths) {
		try {
			files.push(...(await filesIn(path)));
		} catch (error) {
			throw new Error(`${basename(path)}: ${sentenceFor(error, path)}`);
		}
	}
	files.sort((a, b) => byName(a.name, b.name));
	const cores = new EveryCore();
	const made = await Promise.allSettled(
		files.map(async ({ path, name }, i) => {
			const { contents, pages } = await cores.pagesOfFile(path, (index) => ({
				picture: { id: `${i}-${index}`, source: name, sourcePage: index },
				tone: usualTone(rules),
				questions: rules.questions,
				...(rules.pages?.size ? { paper: rules.pages.size } : {}),
				reading,
				inStack,
				images: true
			}));
			return pages.map(({ made, milliseconds: _, ...page }): Prepared => ({
				...page,
				...made!,
				file: { path, type: contents.type },
				weights: null,
				takenAt: contents.takenAt === null ? null : Date.parse(contents.takenAt),
				otherPerson: null,
				name: null
			}));
		})
	);
	await cores.close();
	return made.flatMap((one, i) => {
		const { path, name } = files[i]!;
		if (one.status === 'rejected') throw new Error(`${name}: ${sentenceFor(one.reason, path)}`);
		return one.value;
	});
}
