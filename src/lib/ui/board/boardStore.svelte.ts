import {
	fits,
	nextForClass,
	sorted,
	standingOf,
	type BoardFilter,
	type BoardStudent,
	type BoardSort,
	type BoardView
} from '$lib/core/board/board';
import type { FileRow } from '$lib/server/store/deliveries';
import { inTurn } from '../packet/inTurn';
import { ask, post } from '../packet/ask';
import { newKey } from '../packet/unsent';

/** Milliseconds between two looks whether a file is made, and after which it is given up. */
const LOOK_AGAIN = 700;
const TIMEOUT = 180_000;

export const EVERYBODY: BoardFilter = { words: '', standing: 'any', unreadable: null };

/** Something that is done for several people. */
export interface Run {
	/** In the past tense. */
	readonly what: string;
	readonly done: number;
	readonly of: number;
	/** What went wrong, by name. */
	readonly problems: readonly string[];
	readonly isOver: boolean;
}

/** A class's board that is open in this browser. */
export class BoardStore {
	board = $state.raw<BoardView>()!;
	filter = $state.raw<BoardFilter>(EVERYBODY);
	sort = $state<{ by: BoardSort; down: boolean }>({ by: 'name', down: false });
	/** Ids of students. */
	marked = $state.raw<readonly string[]>([]);
	online = $state(true);
	run = $state.raw<Run | null>(null);

	readonly shown = $derived(
		sorted(
			this.board.students.filter((s) => fits(this.board, s, this.filter)),
			this.sort.by,
			this.sort.down
		)
	);
	/** Those who are marked and shown: nothing is done to whom one does not see. */
	readonly chosen = $derived(this.shown.filter((s) => this.marked.includes(s.id)));
	readonly next = $derived(nextForClass(this.board.students));
	readonly ready = $derived(this.chosen.filter((s) => standingOf(s) === 'ready'));

	/** Those whose questions are not all placed. */
	readonly unplaced = $derived(
		this.chosen.filter(
			(s) =>
				s.pages > 0 &&
				!s.handedInAt &&
				s.summary?.cells.some((c) => c.state === 'open' || c.state === 'absent')
		)
	);

	/** Of wishes to hand in, by packet and version: the same wish again is the same delivery. */
	readonly #keys: Record<string, string> = {};

	/** @param fileType what the rule sheet asks for */
	constructor(
		board: BoardView,
		readonly fileType: 'pdf' | 'zip'
	) {
		this.board = board;
	}

	listen(): () => void {
		const events = new EventSource(`/api/assignments/${this.board.id}/board/events`);
		events.addEventListener('changed', () => void this.refresh());
		events.addEventListener('open', () => void this.refresh());
		events.addEventListener('error', () => (this.online = false));
		return () => events.close();
	}

	/** What was asked for earlier does not take the place of what came since. */
	readonly refresh = inTurn(async () => {
		const response = await fetch(`/api/assignments/${this.board.id}/board`).catch(() => null);
		this.online = response !== null;
		if (response?.ok) this.board = (await response.json()) as BoardView;
	});

	mark(id: string, on: boolean): void {
		const others = this.marked.filter((marked) => marked !== id);
		this.marked = on ? [...others, id] : others;
	}

	/** Marks everybody who is shown, or nobody. */
	markAll(on: boolean): void {
		this.marked = on ? this.shown.map((s) => s.id) : [];
	}

	/** Marks these alone, and shows everybody, so that they are seen. */
	markOnly(students: readonly string[]): void {
		this.filter = EVERYBODY;
		this.marked = students;
	}

	sortBy(by: BoardSort): void {
		this.sort = { by, down: this.sort.by === by && !this.sort.down };
	}

	/** Hands in what is ready of those marked; the rest is left alone. */
	handIn(): Promise<void> {
		return this.#each('Handed in', this.ready, (s) => this.#handIn(s.packetId!, s.version));
	}

	/** Takes the order and the map that were surely read, of those marked whose questions are not all placed. */
	takeRead(): Promise<void> {
		return this.#each('Placed', this.unplaced, async (s) => {
			const { taken } = await ask<{ taken: boolean }>(s.packetId!, 'proposed', post({ version: s.version }));
			if (!taken) throw new Error('Nothing was read surely enough. Look at it yourself.');
		});
	}

	/** Does something for several students, one after another. */
	async #each(
		what: string,
		students: readonly BoardStudent[],
		work: (student: BoardStudent) => Promise<void>
	): Promise<void> {
		const problems: string[] = [];
		const tell = (done: number, isOver = false) => {
			this.run = { what, done, of: students.length, problems: [...problems], isOver };
		};
		tell(0);
		for (const [i, student] of students.entries()) {
			try {
				await work(student);
			} catch (error) {
				problems.push(`${student.given} ${student.family}: ${(error as Error).message}`);
			}
			tell(i + 1);
		}
		tell(students.length, true);
		await this.refresh();
	}

	async #handIn(packet: string, version: number): Promise<void> {
		const until = Date.now() + TIMEOUT;
		let file: FileRow;
		do {
			file = await ask<FileRow>(packet, 'file', post({ version, type: this.fileType }));
			if (file.state === 'failed') throw new Error(file.problem ?? 'Its file could not be made.');
			if (file.state === 'making') await new Promise((done) => setTimeout(done, LOOK_AGAIN));
		} while (file.state === 'making' && Date.now() < until);
		if (file.state !== 'ready') throw new Error('Its file is still being made. Try again in a moment.');
		const wish = `${packet}/${version}`;
		const key = (this.#keys[wish] ??= newKey());
		await ask(packet, 'deliveries', post({ file: file.id, key }));
	}
}
