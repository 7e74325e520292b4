import { createPublicKey, randomUUID, verify } from 'node:crypto';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

export interface PortalAssignment {
	readonly id: string;
	readonly title: string;
	readonly course: string;
	readonly due: string | null;
	/** Minutes after the due time in which it still takes files. */
	readonly grace: number;
	/** Whether what comes after that is refused. */
	readonly strict: boolean;
	/** The public key (PEM) by which proofs of its sender are believed; null: none are. */
	readonly proofKey: string | null;
}

/** That something was handed in elsewhere, signed by where it was. */
export interface Proof {
	readonly statement: string;
	readonly signature: string;
	readonly publicKey: string;
}

export interface PortalSubmission {
	readonly number: string;
	readonly assignmentId: string;
	readonly student: string;
	readonly fileName: string;
	readonly type: string;
	readonly sha256: string;
	readonly bytes: number;
	readonly comment: string;
	readonly receivedAt: string;
	/** When it was handed in, by a proof that is believed; null without one. */
	readonly provenAt: string | null;
	readonly late: boolean;
	readonly key: string;
	readonly recalledAt: string | null;
	/** Number of the submission that took its place. */
	readonly replacedBy: string | null;
}

interface State {
	assignments: Record<string, PortalAssignment>;
	submissions: PortalSubmission[];
	/** Keys that were called off before anything came under them. */
	calledOff: string[];
}

/** What a proof says that is believed: both ISO 8601; `due` where the student was given more time. */
interface Proven {
	readonly at: string;
	readonly due: string | null;
}

/** What the portal says no to. */
export class Refusal extends Error {
	constructor(
		readonly status: number,
		message: string
	) {
		super(message);
	}
}

export interface PortalOptions {
	readonly folder: string;
	readonly port: number;
	readonly maxBytes: number;
	readonly now?: () => number;
}

export interface Arriving {
	readonly assignmentId: string;
	readonly student: string;
	readonly fileName: string;
	readonly type: string;
	readonly comment: string;
	readonly key: string;
	/** Number of the submission whose place it takes; null for none. */
	readonly replaces: string | null;
	readonly proof: Proof | null;
	readonly sha256: string;
	readonly body: Buffer;
}

/** What the portal keeps: assignments and submissions in one file, each change on disk before it is answered. */
export class Submissions {
	#state: State = { assignments: {}, submissions: [], calledOff: [] };
	#writing: Promise<unknown> = Promise.resolve();

	constructor(readonly options: PortalOptions) {}

	async open(): Promise<void> {
		await mkdir(this.options.folder, { recursive: true });
		const text = await readFile(this.#file, 'utf8').catch(() => null);
		if (text) this.#state = JSON.parse(text) as State;
	}

	get assignments(): readonly PortalAssignment[] {
		return Object.values(this.#state.assignments);
	}

	get all(): readonly PortalSubmission[] {
		return this.#state.submissions;
	}

	assignment(id: string): PortalAssignment | undefined {
		return Object.hasOwn(this.#state.assignments, id) ? this.#state.assignments[id] : undefined;
	}

	pathOf(sha256: string): string {
		return join(this.options.folder, sha256);
	}

	/** @throws Refusal when there is none */
	byNumber(number: string): PortalSubmission {
		const found = this.all.find((s) => s.number === number);
		if (!found) throw new Refusal(404, 'The portal has no such submission.');
		return found;
	}

	byKey(key: string): PortalSubmission | undefined {
		return this.all.find((s) => s.key === key);
	}

	async publish(assignment: PortalAssignment): Promise<void> {
		if (JSON.stringify(this.assignment(assignment.id)) === JSON.stringify(assignment)) return;
		await this.#change((state) => void (state.assignments[assignment.id] = assignment));
	}

	/** Takes a file in, once for a key. @throws Refusal */
	receive(arriving: Arriving, pastDue: boolean): Promise<{ submission: PortalSubmission; isNew: boolean }> {
		return this.#change(async (state) => {
			const { body, replaces, proof, ...rest } = arriving;
			const before = this.byKey(arriving.key);
			if (before) {
				if (before.sha256 !== arriving.sha256) throw new Refusal(409, 'This key was used for another file.');
				return { submission: before, isNew: false };
			}
			if (state.calledOff.includes(arriving.key)) throw new Refusal(410, 'This was called off.');
			const proven = proof && this.#proven(arriving, proof);
			const provenAt = proven?.at ?? null;
			const { late, refused } = this.#lateness(arriving.assignmentId, proven, pastDue);
			if (refused) throw new Refusal(403, 'The due time has passed and this assignment takes nothing more.');
			await this.#keep(arriving.sha256, body);
			const submission: PortalSubmission = {
				...rest,
				number: `AF-${String(state.submissions.length + 1).padStart(5, '0')}`,
				bytes: body.length,
				receivedAt: new Date(this.#now()).toISOString(),
				provenAt,
				late,
				recalledAt: null,
				replacedBy: null
			};
			state.submissions = state.submissions.map((s) =>
				s.number === replaces && !s.recalledAt ? { ...s, replacedBy: submission.number } : s
			);
			state.submissions.push(submission);
			return { submission, isNew: true };
		});
	}

	/** Takes back what came, or will come, under a key. */
	recall(key: string): Promise<PortalSubmission | null> {
		return this.#change((state) => {
			const found = this.byKey(key);
			if (!found) {
				if (!state.calledOff.includes(key)) state.calledOff.push(key);
				return null;
			}
			const recalled = { ...found, recalledAt: found.recalledAt ?? new Date(this.#now()).toISOString() };
			state.submissions = state.submissions.map((s) => (s.key === key ? recalled : s));
			return recalled;
		});
	}

	get #file(): string {
		return join(this.options.folder, 'portal.json');
	}

	#now(): number {
		return this.options.now?.() ?? Date.now();
	}

	/** When a file was handed in and until when it was due for this student, if its proof is of this file and by who made the assignment known. */
	#proven({ assignmentId, sha256 }: Arriving, { statement, signature }: Proof): Proven | null {
		const { proofKey } = this.assignment(assignmentId)!;
		if (!proofKey) return null;
		try {
			const key = createPublicKey(proofKey);
			if (!verify(null, Buffer.from(statement), key, Buffer.from(signature, 'base64'))) return null;
			const said = JSON.parse(statement) as { sha256?: string; handedInAt?: string; due?: string };
			const at = Date.parse(said.handedInAt ?? '');
			// Nobody hands in tomorrow.
			if (said.sha256 !== sha256 || !(at <= this.#now() + 60_000)) return null;
			return { at: new Date(at).toISOString(), due: said.due ?? null };
		} catch {
			return null;
		}
	}

	#lateness(
		assignmentId: string,
		proven: Proven | null,
		pastDue: boolean
	): { late: boolean; refused: boolean } {
		const { due, grace, strict } = this.assignment(assignmentId)!;
		if (pastDue) return { late: true, refused: true };
		if (due === null) return { late: false, refused: false };
		const over = (proven ? Date.parse(proven.at) : this.#now()) - Date.parse(proven?.due ?? due);
		return { late: over > 0, refused: strict && over > grace * 60_000 };
	}

	async #keep(sha256: string, body: Buffer): Promise<void> {
		const temporary = this.pathOf(`${randomUUID()}.part`);
		await writeFile(temporary, body);
		await rename(temporary, this.pathOf(sha256)).catch(async (error: unknown) => {
			await rm(temporary, { force: true });
			throw error;
		});
	}

	/** One change after another; where one is refused nothing is written. */
	#change<T>(work: (state: State) => Promise<T> | T): Promise<T> {
		const next = this.#writing.then(async () => {
			const result = await work(this.#state);
			const temporary = `${this.#file}.${randomUUID()}`;
			await writeFile(temporary, JSON.stringify(this.#state));
			await rename(temporary, this.#file);
			return result;
		});
		this.#writing = next.catch(() => undefined);
		return next;
	}
}
