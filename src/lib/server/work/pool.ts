import { availableParallelism } from 'node:os';
import { BUDGETS, type StepName } from './budgets';
import { Lane } from './lane';
import type * as steps from './steps';

type Steps = typeof steps;

/** After this many milliseconds without work the reader's memory is given back. */
const READER_REST = 120_000;
/** Preparing what a person waits for comes before reading. */
const READER_NICE = 5;

/** Processes for heavy computation; neither requests nor the queue ever wait on this thread for it. */
export class Pool {
	/** One more than pages are prepared at once, so that a file is taken in while they are: pages show up at once. */
	readonly processes = Math.max(1, Math.min(availableParallelism(), 4)) + 1;
	readonly #lanes = {
		pages: new Lane({ processes: this.processes, beside: 4 }),
		reader: new Lane({ processes: 1, nice: READER_NICE, rest: READER_REST })
	};

	/** @throws BudgetError, CrashError */
	run<Name extends StepName>(
		name: Name,
		input: Parameters<Steps[Name]>[0]
	): Promise<Awaited<ReturnType<Steps[Name]>>> {
		const budget = BUDGETS[name];
		return this.#lanes[budget.lane].run({ name, input }, budget) as Promise<Awaited<ReturnType<Steps[Name]>>>;
	}

	async close(): Promise<void> {
		await Promise.all(Object.values(this.#lanes).map((lane) => lane.close()));
	}
}
