import { parentPort, workerData } from 'node:worker_threads';
import { Mutex, PGlite, type Transaction } from '@electric-sql/pglite';
import { DurableFolder } from './durableFolder';
import { layEmptyDatabase } from './emptyDatabase';
import {
	NO_ROWS,
	type Answer,
	type Question,
	type Rows,
	type ThreadData,
	type ThreadError
} from './pgliteProtocol';
import { PreparedStatements } from './preparedStatements';

// The thread that PostgreSQL runs on. It ends itself when the database in it has: whoever started it starts another,
// which recovers what was committed.

const port = parentPort!;
const { folder, tables } = workerData as ThreadData;

/**
 * As PGlite starts it, but with fsync, by the call that reaches the disk; and planning for rows that lie in
 * memory, found by their index.
 */
const PARAMETERS = [
	...PGlite.defaultStartParams.filter((p) => p !== '-F'),
	...['wal_sync_method=fsync', 'random_page_cost=1.1'].flatMap((p) => ['-c', p])
];

/** Milliseconds after which a database that does not answer has fallen over. */
const TIMEOUT = 10_000;

const isNew = await layEmptyDatabase(folder);
const pg = await PGlite.create({ fs: new DurableFolder(folder), startParams: PARAMETERS });
if (isNew && !tables) await pg.exec('drop schema public cascade; create schema public');
const statements = new PreparedStatements(pg);
/** Held by what is done in a transaction, and by what is done outside of any. */
const turn = new Mutex();

interface Open {
	readonly tx: Transaction;
	readonly end: (how: 'commit' | 'rollback') => void;
	readonly ended: Promise<void>;
}
const transactions = new Map<number, Open>();

port.on('message', (question: Question) => {
	answer(question).then(
		(rows) => port.postMessage({ id: question.id, ...rows } satisfies Answer),
		async (error: unknown) => {
			port.postMessage({ id: question.id, error: plain(error) } satisfies Answer);
			if (!(await isAlive())) process.exit(1);
		}
	);
});
port.postMessage({ id: 0, ...NO_ROWS } satisfies Answer);

async function answer(question: Question): Promise<Rows> {
	switch (question.kind) {
		case 'query':
			return during(question.transaction, () => statements.query(question.sql, question.parameters));
		case 'script':
			return during(question.transaction, async (tx) => {
				const results = await (tx ?? pg).exec(question.sql);
				await statements.ranScript(question.sql);
				return { rows: (results.at(-1)?.rows ?? []) as Rows['rows'], json: [] };
			});
		case 'begin':
			return begin(question.id);
		case 'commit':
		case 'rollback': {
			const open = transactions.get(question.transaction);
			if (!open) throw new Error('This transaction is over.');
			open.end(question.kind);
			await open.ended;
			return NO_ROWS;
		}
		case 'close':
			await pg.close();
			return NO_ROWS;
	}
}

/** Does something in an open transaction, or between two of them. */
function during<T>(transaction: number | null, work: (tx: Transaction | null) => Promise<T>): Promise<T> {
	if (transaction === null) return turn.runExclusive(() => work(null));
	const open = transactions.get(transaction);
	if (!open) throw new Error('This transaction is over.');
	return work(open.tx);
}

const ROLLED_BACK = new Error('Rolled back.');

/** Opens a transaction under the number of the question that asked for it, once those before it are over. */
async function begin(id: number): Promise<Rows> {
	const release = await turn.acquire();
	return new Promise((begun, failed) => {
		const ended: Promise<void> = pg
			.transaction(
				(tx) =>
					new Promise<void>((commit, rollback) => {
						const end = (how: 'commit' | 'rollback') => (how === 'commit' ? commit() : rollback(ROLLED_BACK));
						transactions.set(id, { tx, end, ended });
						begun(NO_ROWS);
					})
			)
			.catch((error: unknown) => {
				if (error !== ROLLED_BACK) throw error;
			})
			.finally(() => {
				transactions.delete(id);
				release();
			});
		ended.catch(failed);
	});
}

/** Whether the database still answers: what says no to a statement lives, what fell over does not. */
async function isAlive(): Promise<boolean> {
	// A transaction that is open holds other questions up, and was answered itself.
	if (transactions.size > 0) return true;
	const late = new Promise<boolean>((done) => setTimeout(() => done(false), TIMEOUT));
	const answers = pg.query('select 1').then(
		() => true,
		() => false
	);
	return Promise.race([answers, late]);
}

function plain(error: unknown): ThreadError {
	const { message, code } = error as { message?: string; code?: string };
	return { message: message ?? String(error), ...(typeof code === 'string' ? { code } : {}) };
}
