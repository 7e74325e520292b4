import { availableParallelism } from 'node:os';
import { resolve } from 'node:path';
import { Piscina } from 'piscina';
import type * as steps from './steps';

type Steps = typeof steps;
type StepName = 'takeIn' | 'prepare' | 'makeFile';

/** Threads for heavy computation; neither requests nor the queue ever wait on this thread for it. */
export class Pool {
	readonly #piscina: Piscina;
	/** One more than pages are prepared at once, so that a file is taken in while they are: pages show up at once. */
	readonly threads = Math.max(1, Math.min(availableParallelism(), 4)) + 1;

	constructor() {
		this.#piscina = new Piscina({
			filename: resolve(process.env.MEMBRANA_WORKER ?? 'build-node/worker.js'),
			// All of them stand ready: loading the codecs takes longer than preparing a page.
			minThreads: this.threads,
			maxThreads: this.threads
		});
	}

	run<Name extends StepName>(
		name: Name,
		input: Parameters<Steps[Name]>[0]
	): Promise<Awaited<ReturnType<Steps[Name]>>> {
		return this.#piscina.run(input, { name });
	}

	close(): Promise<void> {
		return this.#piscina.destroy();
	}
}
