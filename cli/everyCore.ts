import { availableParallelism } from 'node:os';
import { openSource, type SourceContents } from '../src/lib/server/codec/source';
import { SourceError } from '../src/lib/server/codec/sourceError';
import { BUDGETS } from '../src/lib/server/work/budgets';
import { BudgetError, CrashError, Lane } from '../src/lib/server/work/lane';
import type { Outcome } from '../src/lib/server/work/steps';
import type { WholePage, WholePictureInput } from '../src/lib/server/work/wholePicture';

/** Pictures of files, worked on by all processors; results come in the order of the files. */
export class EveryCore {
	readonly #lane = new Lane({ processes: availableParallelism(), rest: 1_000 });

	/** @throws SourceError when it cannot be used */
	async pages(input: WholePictureInput): Promise<WholePage[]> {
		let answer: Outcome<{ pages: WholePage[] }>;
		try {
			const task = { name: 'wholePicture', input } as const;
			answer = (await this.#lane.run(task, BUDGETS.wholePicture)) as typeof answer;
		} catch (error) {
			if (error instanceof BudgetError || error instanceof CrashError) {
				throw new SourceError(
					`This file cannot be worked on: ${error.message} Save it again in another format.`
				);
			}
			throw error;
		}
		if (!answer.ok) throw new SourceError(answer.problem);
		return answer.pages;
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
