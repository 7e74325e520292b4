import { BUDGETS, type StepName } from './budgets';
import { CORES } from './cores';
import { Lane } from './lane';
import type * as steps from './steps';

type Steps = typeof steps;

/** After so many milliseconds without work the memory of processes is given back. */
const PAGES_REST = 60_000;
const READER_REST = 120_000;
/** Answering comes before preparing, and preparing what a person waits for before reading. */
const PAGES_NICE = 4;
const READER_NICE = 8;

/** Processes for heavy computation; neither requests nor the queue ever wait on this thread for it. */
export class Pool {
	readonly #lanes = {
		// One more than pages are prepared at once, so that a file is taken in while they are: pages show up at once. One stands
		// ready for what somebody asks for; the others begin when something is on its way.
		pages: new Lane({ processes: CORES + 1, ready: 1, rest: PAGES_REST, nice: PAGES_NICE, beside: 4 }),
		reader: new Lane({ processes: CORES, nice: READER_NICE, rest: READER_REST })
	};

	/** @throws BudgetError, CrashError */
	run<Name extends StepName>(
		name: Name,
		input: Parameters<Steps[Name]>[0]
	): Promise<Awaited<ReturnType<Steps[Name]>>> {
		const budget = BUDGETS[name];
		return this.#lanes[budget.lane].run({ name, input }, budget) as Promise<Awaited<ReturnType<Steps[Name]>>>;
	}

	/** Something is on its way that will be prepared. */
	expectPages(): void {
		this.#lanes.pages.expect();
	}

	/** Something is on its way that will be read: the models are loaded meanwhile. */
	expectReading(): void {
		this.#lanes.reader.makeReady({ name: 'loadReader', input: null });
	}

	async close(): Promise<void> {
		await Promise.all(Object.values(this.#lanes).map((lane) => lane.close()));
	}
}
