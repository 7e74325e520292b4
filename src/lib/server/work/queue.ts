import { randomUUID } from 'node:crypto';
import type PgBoss from 'pg-boss';
import type { Database } from '../store/database';
import { forgetProcess, freeJobs, holdJobs, seeProcess } from '../store/processes';
import { bossOn, startBoss } from './boss';
import { BudgetError } from './lane';
import { KINDS, NAMES, type Handler, type Handlers, type JobName, type Jobs } from './kinds';

/** Jobs of one packet that wait come after each other's turns, at most this far behind. */
const LOWEST_TURN = 9_999;

const RETRIES = 4;
/** A job whose process was ended for what it used is tried once more, then never again. */
const RETRIES_OVER_BUDGET = 1;
/** Milliseconds between two looks for jobs whose time has come and for which nobody rang. */
const POLL = 2_000;
/** Milliseconds between two signs of life, where several processes work on one database. */
const ALIVE = 5_000;
/** Milliseconds that jobs have to end when the process does. */
const GRACE = 3_000;
/** Milliseconds before a job is looked for again after trouble with the database. */
const BACKOFF = 1_000;

interface Added {
	/** Whose turn it is: jobs of different packets are taken in turn. */
	readonly packetId?: string;
	readonly priority?: number;
	readonly afterSeconds?: number;
}

/** Slow jobs of a kind that run beside the others, for each slot. */
const SLOW_BESIDE = 2;
/** Seconds for which a job is put off while another of its packet is slow. */
const PUT_OFF = 3;

interface Running {
	readonly name: JobName;
	readonly packetId: string | undefined;
	readonly since: number;
}

/** What stands in a job beside its data. */
interface Kept {
	/** The packet whose turn it is. */
	readonly turnOf?: string;
	/** Why it is not tried again, in a sentence for people. */
	readonly gaveUp?: string;
}

type Fetched = PgBoss.JobWithMetadata<Jobs[JobName]>;

/**
 * Jobs in the database: what was asked for is done, also after the process was killed. Packets take turns: of each, the
 * first job that waits goes before the second of any other, so that nobody waits for somebody's two hundred pages. What
 * takes long makes room: other packets' jobs are begun beside it.
 */
export class Queue {
	readonly #db: Database;
	/** This process among those of its database. */
	readonly #id = randomUUID();
	readonly #boss: PgBoss;
	#handlers: Handlers | null = null;
	/** Whether there is room for what jobs write. */
	#mayWrite: () => boolean = () => true;
	#stopped = false;
	#looking = false;
	readonly #running = new Map<string, Running>();
	readonly #fetching = new Map<JobName, 'once' | 'again'>();
	readonly #timers = new Set<NodeJS.Timeout>();
	readonly #atWork = new Set<Promise<void>>();
	/** Jobs that wait, by kind and packet, as far as this process knows. */
	readonly #waiting = new Map<string, number>();

	constructor(db: Database) {
		this.#db = db;
		this.#boss = bossOn(db);
		this.#boss.on('error', (error) => console.error('Queue:', error));
	}

	/**
	 * Starts taking jobs. Where no other process works on this database, whatever was being done when the last one died
	 * is taken up again at once; else once its process has not been seen for a while.
	 *
	 * @param handlers null: jobs are only added here, and done by other processes
	 * @param mayWrite asked before a job is taken that writes files
	 */
	async start(handlers: Handlers | null, mayWrite: () => boolean): Promise<void> {
		await startBoss(this.#boss);
		const { news } = this.#db;
		if (!handlers) return;
		if (news) {
			news.hear((message) => {
				const name = message?.startsWith('job ') ? (message.slice(4) as JobName) : null;
				for (const one of name ? [name] : message === null ? NAMES : []) this.#ring(one);
			});
			await this.#live();
			this.#timers.add(setInterval(() => void this.#live().catch(logged), ALIVE));
		} else {
			await this.#db.query(
				`update pgboss.job set state = 'retry', start_after = now() where state = 'active'`
			);
		}
		this.#handlers = handlers;
		this.#mayWrite = mayWrite;
		for (const name of NAMES) this.#ring(name);
		this.#timers.add(setInterval(() => void this.#look().catch(logged), POLL));
	}

	/** Rings for every kind of job whose time has come: one question for all of them. */
	async #look(): Promise<void> {
		if (this.#looking) return;
		this.#looking = true;
		try {
			const due = await this.#db.query<{ name: JobName }>(
				`select distinct name from pgboss.job where state < 'active' and start_after < now()`
			);
			for (const { name } of due) if (name in KINDS) this.#ring(name);
		} finally {
			this.#looking = false;
		}
	}

	add<Name extends JobName>(name: Name, data: Jobs[Name], added: Added = {}): Promise<void> {
		return this.addAll(name, [{ data, ...added }]);
	}

	/** Adds many jobs in one statement. */
	async addAll<Name extends JobName>(
		name: Name,
		jobs: readonly (Added & { readonly data: Jobs[Name] })[]
	): Promise<void> {
		if (jobs.length === 0) return;
		const now = Date.now();
		await this.#boss.insert(
			jobs.map(({ data, packetId, priority = 0, afterSeconds = 0 }) => ({
				name,
				data: { ...data, ...(packetId === undefined ? {} : { turnOf: packetId }) },
				priority: priority - this.#turn(name, packetId),
				startAfter: new Date(now + afterSeconds * 1000),
				retryLimit: RETRIES,
				retryDelay: 1,
				expireInSeconds: 3600
			}))
		);
		if (this.#db.news) this.#db.news.tell(`job ${name}`);
		else this.#ring(name);
		const latest = Math.max(...jobs.map((j) => j.afterSeconds ?? 0));
		if (latest > 0 && latest < POLL) this.#ringAfter(name, latest * 1000 + 20);
	}

	/** Waits for what is being done, but not for long: it is taken up again at the next start. */
	async stop(): Promise<void> {
		this.#stopped = true;
		for (const timer of this.#timers) clearInterval(timer);
		if (this.#db.news && this.#handlers) await forgetProcess(this.#db, this.#id).catch(logged);
		await this.#boss.stop({ graceful: false, wait: false, close: false });
	}

	/**
	 * Resolves when nothing is being done any more, or after some seconds: what still waits for somebody else's answer then
	 * is taken up again at the next start. After `stop`, and after what jobs wait for here was ended.
	 */
	async idle(): Promise<void> {
		const late = new Promise<void>((done) => setTimeout(done, GRACE).unref());
		await Promise.race([Promise.all(this.#atWork), late]);
	}

	/** Says that this process lives, and takes up what dead ones held. */
	async #live(): Promise<void> {
		await seeProcess(this.#db, this.#id);
		await freeJobs(this.#db);
	}

	/** How many of a packet's jobs go before a new one, and one more waits now. */
	#turn(name: JobName, packetId: string | undefined): number {
		if (packetId === undefined) return 0;
		const key = `${name} ${packetId}`;
		const before = this.#waiting.get(key) ?? 0;
		this.#waiting.set(key, before + 1);
		return Math.min(before, LOWEST_TURN);
	}

	#taken(name: JobName, packetId: string | undefined): void {
		if (packetId === undefined) return;
		const key = `${name} ${packetId}`;
		const left = (this.#waiting.get(key) ?? 0) - 1;
		if (left > 0) this.#waiting.set(key, left);
		else this.#waiting.delete(key);
	}

	#ringAfter(name: JobName, milliseconds: number): void {
		const timer = setTimeout(() => {
			this.#timers.delete(timer);
			this.#ring(name);
		}, milliseconds);
		this.#timers.add(timer);
	}

	/** Says that there may be jobs of a kind. They are fetched one call at a time. */
	#ring(name: JobName): void {
		if (this.#stopped || !this.#handlers) return;
		if (this.#fetching.has(name)) {
			this.#fetching.set(name, 'again');
			return;
		}
		this.#fetching.set(name, 'once');
		void this.#fetch(name)
			.catch((error: unknown) => {
				if (this.#stopped) return;
				console.error(`Queue: ${(error as Error).message}`);
				this.#ringAfter(name, BACKOFF);
			})
			.finally(() => {
				const again = this.#fetching.get(name) === 'again';
				this.#fetching.delete(name);
				if (again) this.#ring(name);
			});
	}

	async #fetch(name: JobName): Promise<void> {
		const { slots, writes } = KINDS[name];
		const running = [...this.#running.values()].filter((r) => r.name === name);
		const slow = running.filter(isSlow).length;
		const free = Math.min(slots - (running.length - slow), slots * (1 + SLOW_BESIDE) - running.length);
		if (free <= 0 || (writes && !this.#mayWrite())) return;
		const jobs: readonly Fetched[] =
			(await this.#boss.fetch<Jobs[JobName]>(name, {
				batchSize: free,
				priority: true,
				includeMetadata: true
			})) ?? [];
		if (this.#db.news && jobs.length > 0) {
			await holdJobs(
				this.#db,
				this.#id,
				jobs.map((job) => job.id)
			);
		}
		for (const job of jobs) {
			const packetId = (job.data as Kept).turnOf;
			if (packetId !== undefined && running.some((r) => r.packetId === packetId && isSlow(r))) {
				await this.#putOff(job.id);
				this.#ring(name);
				continue;
			}
			this.#running.set(job.id, { name, packetId, since: Date.now() });
			const work = this.#work(name, job).finally(() => {
				this.#running.delete(job.id);
				this.#atWork.delete(work);
				this.#ring(name);
			});
			this.#atWork.add(work);
		}
	}

	/** Puts a job back, as if it had not been taken. */
	async #putOff(id: string): Promise<void> {
		await this.#db.query(
			`update pgboss.job set state = 'created', started_on = null,
				start_after = now() + make_interval(secs => $2) where id = $1`,
			[id, PUT_OFF]
		);
	}

	async #work<Name extends JobName>(name: Name, job: Fetched): Promise<void> {
		const { turnOf, gaveUp, ...data } = job.data as Jobs[Name] & Kept;
		const handler = this.#handlers![name] as unknown as Handler<Name>;
		this.#taken(name, turnOf);
		try {
			if (gaveUp === undefined) await handler.run(data as unknown as Jobs[Name]);
			else await this.#record(() => handler.failed(data as unknown as Jobs[Name], gaveUp));
		} catch (error) {
			// What a stop ended is taken up again at the next start, and counts as no failure.
			if (this.#stopped) return;
			const over = error instanceof BudgetError;
			const isLast = job.retryCount >= (over ? RETRIES_OVER_BUDGET : RETRIES);
			console.error(`Job ${name} ${JSON.stringify(data)}${isLast ? ' for good' : ''}:`, error);
			if (!isLast) return this.#record(() => this.#boss.fail(name, job.id, error as object));
			const problem = sentence(error);
			await this.#record(() => this.#giveUp(job.id, problem));
			await this.#record(() => handler.failed(data as unknown as Jobs[Name], problem));
		}
		await this.#record(() => this.#boss.complete(name, job.id));
	}

	/** Keeps why a job is given up before anybody hears of it: a process that dies in between does not begin it again. */
	async #giveUp(id: string, problem: string): Promise<void> {
		await this.#db.query(
			`update pgboss.job set data = data || jsonb_build_object('gaveUp', $2::text) where id = $1`,
			[id, problem]
		);
	}

	/** Writes down how a job ended. While the database cannot be reached it is tried again; a stop ends that. */
	async #record(write: () => Promise<void>): Promise<void> {
		for (let tries = 0; !this.#stopped && tries < 30; tries++) {
			try {
				return await write();
			} catch (error) {
				console.error(`Queue: ${(error as Error).message}`);
				await new Promise((done) => setTimeout(done, BACKOFF));
			}
		}
	}
}

const logged = (error: unknown) => console.error(`Queue: ${(error as Error).message}`);

function isSlow({ name, since }: Running): boolean {
	return Date.now() - since > KINDS[name].slow;
}

function sentence(error: unknown): string {
	if (!(error instanceof BudgetError)) return 'Membrana had trouble with it several times.';
	return error.what === 'time'
		? 'It takes far longer than any ordinary page and was stopped twice. Save it anew, or photograph it instead.'
		: 'It takes far more memory than any ordinary page and was stopped twice. Save it anew, or photograph it instead.';
}
