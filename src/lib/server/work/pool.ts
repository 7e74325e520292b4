import { availableParallelism } from 'node:os';
import { resolve } from 'node:path';
import { Piscina } from 'piscina';
import type * as steps from './steps';

type Steps = typeof steps;
type StepName =
	| 'takeIn'
	| 'unpack'
	| 'prepare'
	| 'flat'
	| 'makeFile'
	| 'read'
	| 'readText'
	| 'weigh'
	| 'filePage'
	| 'lock'
	| 'receipt';

/** After this many milliseconds without work the reader's memory is given back. */
const READER_REST = 120_000;

/** Threads for heavy computation; neither requests nor the queue ever wait on this thread for it. */
export class Pool {
	readonly #piscina: Piscina;
	/** The reader's own thread: its models are large and are loaded once. */
	readonly #reader: Piscina;
	/** One more than pages are prepared at once, so that a file is taken in while they are: pages show up at once. */
	readonly threads = Math.max(1, Math.min(availableParallelism(), 4)) + 1;

	constructor() {
		const filename = resolve(process.env.MEMBRANA_WORKER ?? 'build-node/pool.cjs');
		this.#reader = new Piscina({ filename, minThreads: 0, maxThreads: 1, idleTimeout: READER_REST });
		this.#piscina = new Piscina({
			filename,
			// All of them stand ready: loading the codecs takes longer than preparing a page.
			minThreads: this.threads,
			maxThreads: this.threads
		});
	}

	run<Name extends StepName>(
		name: Name,
		input: Parameters<Steps[Name]>[0]
	): Promise<Awaited<ReturnType<Steps[Name]>>> {
		return (name === 'read' || name === 'readText' ? this.#reader : this.#piscina).run(input, { name });
	}

	async close(): Promise<void> {
		// A thread that is ended while a model runs takes the whole process with it: what is being read is read to its end.
		await Promise.all([this.#piscina.destroy(), this.#reader.close({ force: true })]);
	}
}
