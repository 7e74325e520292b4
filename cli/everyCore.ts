import { availableParallelism } from 'node:os';
import type { PageReading } from '../src/lib/core/reading/pageReading';
import { openSource, type SourceContents } from '../src/lib/server/codec/source';
import { SourceError } from '../src/lib/server/codec/sourceError';
import { BUDGETS } from '../src/lib/server/work/budgets';
import { BudgetError, CrashError, Lane } from '../src/lib/server/work/lane';
import type * as steps from '../src/lib/server/work/steps';
import type { WholePage, WholePictureInput } from '../src/lib/server/work/wholePicture';

/** Steps that work on files, and what they say when that went well. */
type FileStep = 'wholePicture' | 'namesLeft' | 'makeBundle';
type Done<S extends FileStep> = Extract<Awaited<ReturnType<(typeof steps)[S]>>, { ok: true }>;

/** Pictures of files, worked on by all processors; results come in the order of the files. */
export class EveryCore {
	readonly #lane = new Lane({ processes: availableParallelism(), rest: 1_000 });

	/** @throws SourceError when it cannot be used */
	async pages(input: WholePictureInput): Promise<WholePage[]> {
		return (await this.step('wholePicture', input)).pages;
	}

	/** @throws SourceError when what it works on cannot be used */
	async step<S extends FileStep>(name: S, input: Parameters<(typeof steps)[S]>[0]): Promise<Done<S>> {
		let answer: Done<S> | { readonly ok: false; readonly problem: string };
		try {
			answer = (await this.#lane.run({ name, input }, BUDGETS[name])) as typeof answer;
		} catch (error) {
			if (error instanceof BudgetError || error instanceof CrashError) {
				throw new SourceError(
					`This file cannot be worked on: ${error.message} Save it again in another format.`
				);
			}
			throw error;
		}
		if (!answer.ok) throw new SourceError(answer.problem);
		return answer;
	}

	/** The whole text of a page's picture. */
	async read(input: steps.ReadTextInput): Promise<PageReading> {
		return (await this.#lane.run({ name: 'readText', input }, BUDGETS.readText)) as PageReading;
	}

	/**
	 * The pages of all pictures of a file, once each of them is done; other files are worked on meanwhile.
	 * @throws SourceError when one cannot be used
	 */
	async pagesOfFile(
		path: string,
		inputOf: (index: number, contents: SourceContents) => Omit<WholePictureInput, 'path' | 'type'>
	): Promise<{ contents: SourceContents; pages: WholePage[] }> {
		const contents = await openSource(path);
		const pictures = Array.from({ length: contents.pictures }, (_, index) =>
			this.pages({ path, type: contents.type, ...inputOf(index, contents) })
		);
		const settled = await Promise.allSettled(pictures);
		const pages = settled.flatMap((one) => {
			if (one.status === 'rejected') throw one.reason;
			return one.value;
		});
		return { contents, pages };
	}

	close(): Promise<void> {
		return this.#lane.close();
	}
}
