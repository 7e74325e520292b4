import { Worker } from 'node:worker_threads';
import { nodeBuild } from './nodeBuild';
import type { Database } from './database';
import { DatabaseAwayError, DatabaseError } from './databaseError';
import { parsed, type Answer, type Question, type ThreadData } from './pgliteProtocol';

/** Milliseconds before a thread that ended is started again; each time in a row twice as long, up to the second. */
const BACKOFF = [100, 10_000] as const;
/** Milliseconds that a question waits for a database that is being opened again. */
const TIMEOUT = 8_000;

type Ask = Question extends infer Q ? (Q extends Question ? Omit<Q, 'id'> : never) : never;

/**
 * PostgreSQL in a folder, on a thread of its own: statements cost the thread that answers requests nothing, and a database
 * that falls over (a full disk) takes nothing with it; it is opened again and recovers what was committed. The folder
 * must be locked first (lockFolder).
 *
 * @param tables whether a database that is new has the tables of this version already; without them it can become one of
 * an older version
 */
export async function openPGlite(folder: string, tables = true): Promise<Database> {
	const thread = new DatabaseThread({ folder, tables });
	await thread.opened();
	const { query, script } = on(thread, null);
	return {
		query,
		script,
		// One process alone: what it says it hears itself.
		news: null,
		async transaction(work) {
			const transaction = await thread.begin();
			let result;
			try {
				result = await work({
					...on(thread, transaction),
					news: null,
					transaction: () => Promise.reject(new Error('Transactions do not nest.')),
					close: () => Promise.reject(new Error('A transaction cannot close the database.'))
				});
			} catch (error) {
				// Where the thread has ended, so has the transaction.
				await thread
					.ask({ kind: 'rollback', transaction: transaction.id }, transaction)
					.catch(() => undefined);
				throw error;
			}
			await thread.ask({ kind: 'commit', transaction: transaction.id }, transaction);
			return result;
		},
		close: () => thread.close()
	};
}

/** A transaction lives on the thread it was begun on, and nowhere else. */
interface ThreadTransaction {
	readonly id: number;
	readonly worker: Worker;
}

function on(
	thread: DatabaseThread,
	transaction: ThreadTransaction | null
): Pick<Database, 'query' | 'script'> {
	const id = transaction?.id ?? null;
	return {
		query: async <Row>(sql: string, parameters: readonly unknown[] = []) =>
			(await thread.ask(
				{ kind: 'query', sql, parameters: [...parameters], transaction: id },
				transaction
			)) as Row[],
		script: async (sql) =>
			(await thread.ask({ kind: 'script', sql, transaction: id }, transaction)) as Record<string, unknown>[]
	};
}

interface Pending {
	readonly worker: Worker;
	done(rows: unknown[]): void;
	fail(error: Error): void;
}

class DatabaseThread {
	#worker: Worker | null = null;
	#opening: Promise<Worker>;
	#lastId = 0;
	#failures = 0;
	#hasOpened = false;
	#closing = false;
	readonly #pending = new Map<number, Pending>();

	constructor(readonly data: ThreadData) {
		this.#opening = this.#start();
	}

	async opened(): Promise<void> {
		await this.#opening;
	}

	async begin(): Promise<ThreadTransaction> {
		const worker = await this.#ready();
		const id = ++this.#lastId;
		await this.#send(worker, { id, kind: 'begin' });
		return { id, worker };
	}

	/** @throws DatabaseError where PostgreSQL says no, DatabaseAwayError where it does not answer */
	async ask(question: Ask, transaction: ThreadTransaction | null): Promise<unknown[]> {
		const worker = transaction?.worker ?? (await this.#ready());
		return this.#send(worker, { ...question, id: ++this.#lastId });
	}

	async close(): Promise<void> {
		this.#closing = true;
		const worker = this.#worker;
		if (!worker) return;
		await this.#send(worker, { id: ++this.#lastId, kind: 'close' }).catch(() => undefined);
		await worker.terminate();
	}

	#send(worker: Worker, question: Question): Promise<unknown[]> {
		if (worker !== this.#worker) {
			return Promise.reject(new DatabaseAwayError('it ended during a transaction.'));
		}
		return new Promise((done, fail) => {
			this.#pending.set(question.id, { worker, done, fail });
			worker.postMessage(question);
		});
	}

	async #ready(): Promise<Worker> {
		if (this.#worker) return this.#worker;
		if (this.#closing) throw new DatabaseAwayError('it is closed.');
		let timer: NodeJS.Timeout | undefined;
		const late = new Promise<never>((_, fail) => {
			timer = setTimeout(() => fail(new DatabaseAwayError('it is being opened again.')), TIMEOUT);
		});
		try {
			return await Promise.race([this.#opening, late]);
		} finally {
			clearTimeout(timer);
		}
	}

	/** Starts the thread, and does so again whenever it ends by itself. The first start may fail for good. */
	#start(): Promise<Worker> {
		const opening = new Promise<Worker>((ready, fail) => {
			const worker = new Worker(nodeBuild('database.js'), { workerData: this.data });
			let problem: Error | null = null;
			worker.on('message', (answer: Answer) => {
				if (answer.id > 0) return this.#settle(answer);
				this.#worker = worker;
				this.#failures = 0;
				this.#hasOpened = true;
				ready(worker);
			});
			worker.on('error', (error) => (problem = error));
			worker.on('exit', (code) => {
				if (this.#worker === worker) this.#worker = null;
				const reason = problem?.message ?? `its thread ended with ${code}.`;
				for (const [id, pending] of this.#pending) {
					if (pending.worker !== worker) continue;
					this.#pending.delete(id);
					pending.fail(new DatabaseAwayError(reason));
				}
				fail(this.#hasOpened || !problem ? new DatabaseAwayError(reason) : problem);
				if (this.#closing || !this.#hasOpened) return;
				const [least, most] = BACKOFF;
				const milliseconds = Math.min(most, least * 2 ** this.#failures++);
				console.error(`Database: ${reason} It is opened again in ${milliseconds} ms.`);
				this.#opening = new Promise((again, failed) => {
					setTimeout(() => {
						if (this.#closing) return failed(new DatabaseAwayError('it is closed.'));
						this.#start().then(again, failed);
					}, milliseconds);
				});
				this.#opening.catch(() => undefined);
			});
		});
		opening.catch(() => undefined);
		return opening;
	}

	#settle(answer: Answer): void {
		const pending = this.#pending.get(answer.id);
		if (!pending) return;
		this.#pending.delete(answer.id);
		if ('rows' in answer) return pending.done(parsed(answer));
		const { message, code } = answer.error;
		pending.fail(new DatabaseError(message, code ?? null));
	}
}
