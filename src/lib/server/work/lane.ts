import { fork, type ChildProcess } from 'node:child_process';
import { setPriority } from 'node:os';
import { nodeBuild } from '../store/nodeBuild';
import { goesBefore, type StepBudget, type StepName } from './budgets';
import { useOf } from './processUse';

/** A step's process was ended because it used more than its budget. Trying again will most likely not help. */
export class BudgetError extends Error {
	constructor(readonly what: 'time' | 'memory') {
		super(`A step used more ${what} than it may.`);
		this.name = 'BudgetError';
	}
}

/** A step's process ended by itself: a codec crashed, or the system took its memory back. */
export class CrashError extends Error {
	constructor(how: string) {
		super(`A step's process ended (${how}).`);
		this.name = 'CrashError';
	}
}

/** Milliseconds between two looks at what processes use. */
const LOOK = 200;
/** Milliseconds without work after which a process that holds more megabytes than this is put in the place of a new one. */
const FALLOW = 20_000;
const LEAN = 200;
/** Milliseconds after which a step makes room: it steps back, and another process may take its place beside it. */
const SLOW = 5_000;
const SLOW_NICE = 12;
/** A step that uses no processor time hangs: after this many times its budget, by the clock, it is ended too. */
const CLOCK = 10;

export interface Task {
	readonly name: StepName;
	readonly input: unknown;
	/** Nobody waits for it: no answer is sent. */
	readonly quiet?: boolean;
}
export type TaskAnswer = { readonly result: unknown } | { readonly error: string };

interface Waiting {
	readonly task: Task;
	readonly budget: StepBudget;
	done(result: unknown): void;
	fail(error: Error): void;
}

interface Running extends Waiting {
	readonly since: number;
	readonly cpuBefore: number;
}

interface Worker {
	readonly process: ChildProcess;
	running: Running | null;
	/** When it last ended a step, milliseconds since 1970. */
	idleSince: number;
	/** It stepped back; once it has stepped back it is not used again. */
	slow: boolean;
	/** Why it is being ended. */
	ending: BudgetError | null;
	/** It was sent away while it had nothing to do, and takes no more until it is gone. */
	dismissed: boolean;
	rest: NodeJS.Timeout | null;
}

export interface LaneOptions {
	readonly processes: number;
	/** More of them while steps take long. */
	readonly beside?: number;
	/** Steps back where processors are short (nice(1)). */
	readonly nice?: number;
	/** So many of them always stand ready; all where nothing is said of `rest`, none where it is. */
	readonly ready?: number;
	/** Milliseconds without work after which the others are ended, to give their memory back. */
	readonly rest?: number;
}

/**
 * How a process of work gets its memory (glibc's malloc). Decoded pictures come and go, and every thread's share of what
 * was freed would be kept apart; but what a model needs for a line of writing comes again for the next one, and is not
 * worth asking the kernel for each time: that cost a third of the time of reading.
 */
const MEMORY = {
	MALLOC_ARENA_MAX: '2',
	MALLOC_TRIM_THRESHOLD_: String(20_000_000),
	MALLOC_MMAP_THRESHOLD_: String(8 * 2 ** 20)
} as const;

/**
 * Processes that do one step at a time. Budgets are enforced from outside, since neither a loop in a codec nor native
 * memory can be stopped from within; what one process does wrong ends no other.
 */
export class Lane {
	readonly #workers = new Set<Worker>();
	readonly #waiting: Waiting[] = [];
	readonly #look: NodeJS.Timeout;
	#closed = false;

	readonly #ready: number;

	constructor(readonly options: LaneOptions) {
		const { processes, rest } = options;
		this.#ready = options.ready ?? (rest === undefined ? processes : 0);
		while (this.#workers.size < this.#ready) this.#start();
		this.#look = setInterval(() => this.#enforce(), LOOK);
		this.#look.unref();
	}

	/** How many there are at this moment, at work or not. */
	get processes(): number {
		return this.#workers.size;
	}

	run(task: Task, budget: StepBudget): Promise<unknown> {
		if (this.#closed) return Promise.reject(new CrashError('closed'));
		return new Promise((done, fail) => {
			const waiting = { task, budget, done, fail };
			const behind = this.#waiting.findIndex((w) => goesBefore(budget, w.budget));
			this.#waiting.splice(behind < 0 ? this.#waiting.length : behind, 0, waiting);
			this.#assign();
		});
	}

	/** Work is on its way: loading the codecs takes longer than preparing a page, so that all begin meanwhile. */
	expect(): void {
		while (!this.#closed && this.#workers.size < this.options.processes) this.#restLater(this.#start());
	}

	/** Has a process begin with this unless there is one. It may be given work meanwhile; nobody waits for the answer. */
	makeReady(task: Omit<Task, 'quiet'>): void {
		if (this.#closed || this.#workers.size > 0) return;
		const worker = this.#start();
		worker.process.send({ ...task, quiet: true } satisfies Task, () => {});
		this.#restLater(worker);
	}

	close(): Promise<void> {
		this.#closed = true;
		clearInterval(this.#look);
		for (const { fail } of this.#waiting.splice(0)) fail(new CrashError('closed'));
		const gone = [...this.#workers].map(
			({ process: child }) => new Promise<void>((done) => child.once('exit', () => done()))
		);
		for (const worker of this.#workers) worker.process.kill('SIGKILL');
		return Promise.all(gone).then(() => undefined);
	}

	#assign(): void {
		for (const worker of this.#workers) {
			if (this.#waiting.length === 0) return;
			if (!worker.running && !worker.ending && !worker.slow && !worker.dismissed)
				this.#give(worker, this.#waiting.shift()!);
		}
		while (this.#waiting.length > 0 && this.#hasRoom()) {
			this.#give(this.#start(), this.#waiting.shift()!);
		}
	}

	/** Whether one more process may be started: those that take long count only as far as there is room beside. */
	#hasRoom(): boolean {
		const { processes, beside = 0 } = this.options;
		const slow = [...this.#workers].filter((w) => w.slow).length;
		return this.#workers.size - Math.min(slow, beside) < processes;
	}

	#give(worker: Worker, waiting: Waiting): void {
		if (worker.rest) clearTimeout(worker.rest);
		const cpuBefore = useOf(worker.process.pid ?? 0)?.cpuSeconds ?? 0;
		worker.running = { ...waiting, since: Date.now(), cpuBefore };
		worker.process.send(waiting.task, (error) => {
			if (error) worker.process.kill('SIGKILL');
		});
	}

	#start(): Worker {
		const child = fork(nodeBuild('worker.js'), {
			serialization: 'advanced',
			execArgv: [],
			env: { ...process.env, ...MEMORY }
		});
		const worker: Worker = {
			process: child,
			running: null,
			idleSince: Date.now(),
			slow: false,
			ending: null,
			dismissed: false,
			rest: null
		};
		this.#workers.add(worker);
		const { nice } = this.options;
		if (nice !== undefined && child.pid !== undefined) setPriority(child.pid, nice);
		child.on('message', (answer: TaskAnswer) => {
			const { running } = worker;
			worker.running = null;
			worker.idleSince = Date.now();
			if (running && 'result' in answer) running.done(answer.result);
			else if (running && 'error' in answer) running.fail(new Error(answer.error));
			if (worker.slow) return this.#dismiss(worker);
			this.#assign();
			if (!worker.running) this.#restLater(worker);
		});
		child.on('error', (error) => console.error('Worker:', error.message));
		child.on('exit', (code, signal) => {
			this.#workers.delete(worker);
			worker.running?.fail(worker.ending ?? new CrashError(signal ?? String(code)));
			if (this.#closed) return;
			this.#assign();
			// One that cannot even start is not started as fast as it ends.
			if (this.#isMissing()) setTimeout(() => this.#refill(), 500);
		});
		return worker;
	}

	/** Fewer stand ready or work than are to. */
	#isMissing(): boolean {
		return this.#staying().length < this.#ready && this.#hasRoom();
	}

	/** Those that have not stepped back and are not sent away. */
	#staying(): Worker[] {
		return [...this.#workers].filter((w) => !w.slow && !w.dismissed);
	}

	#refill(): void {
		if (!this.#closed && this.#isMissing()) {
			this.#start();
			this.#assign();
		}
	}

	/** Gives back what a process that stands ready has kept of its last pictures. */
	#renew(worker: Worker): void {
		if (this.#ready === 0 || worker.dismissed || Date.now() - worker.idleSince < FALLOW) return;
		if ((useOf(worker.process.pid ?? 0)?.megabytes ?? 0) > LEAN) this.#dismiss(worker);
	}

	#restLater(worker: Worker): void {
		const { rest } = this.options;
		if (rest === undefined) return;
		worker.rest = setTimeout(() => {
			if (this.#staying().length > this.#ready) this.#dismiss(worker);
		}, rest);
	}

	/** Ends a process that has nothing to do. Until it has ended it is still there, and must not be given anything. */
	#dismiss(worker: Worker): void {
		worker.dismissed = true;
		worker.process.kill('SIGKILL');
	}

	#stepBack(worker: Worker): void {
		worker.slow = true;
		try {
			setPriority(worker.process.pid!, SLOW_NICE);
		} catch {
			// It has just ended.
		}
		this.#assign();
	}

	#enforce(): void {
		for (const worker of this.#workers) {
			const { running } = worker;
			if (!running) this.#renew(worker);
			if (!running || worker.ending) continue;
			const { cpuSeconds, megabytes } = running.budget;
			const use = useOf(worker.process.pid ?? 0);
			const seconds = (Date.now() - running.since) / 1000;
			const overTime =
				(use && use.cpuSeconds - running.cpuBefore > cpuSeconds) || seconds > CLOCK * cpuSeconds;
			const overMemory = use && use.megabytes > megabytes;
			if (!worker.slow && this.options.beside && Date.now() - running.since > SLOW) this.#stepBack(worker);
			if (!overTime && !overMemory) continue;
			worker.ending = new BudgetError(overTime ? 'time' : 'memory');
			worker.process.kill('SIGKILL');
		}
	}
}
