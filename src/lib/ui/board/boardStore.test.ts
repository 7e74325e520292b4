import { afterEach, describe, expect, it, vi } from 'vitest';
import type { BoardStudent, BoardView } from '$lib/core/board/board';
import type { QuestionCell } from '$lib/core/board/summarise';
import { BoardStore, EVERYBODY } from './boardStore.svelte';

const cell = (state: QuestionCell['state']): QuestionCell => ({
	question: '1',
	pages: [0],
	page: 'p',
	verdict: 'clear',
	state
});

function student(given: string, change: Partial<BoardStudent> = {}, state: QuestionCell['state'] = 'clear') {
	return {
		id: given.toLowerCase(),
		given,
		family: 'Okoro',
		hasMail: true,
		packetId: `packet-${given.toLowerCase()}`,
		version: 4,
		pages: 3,
		updatedAt: null,
		summary: { cells: [cell(state)], open: [] } as unknown as BoardStudent['summary'],
		fresh: true,
		handedInAt: null,
		changedSince: false,
		onItsWay: false,
		returnedAt: null,
		moreTime: null,
		...change
	} satisfies BoardStudent;
}

function board(students: readonly BoardStudent[]): BoardView {
	return { id: 'weir', now: 0, due: null, grace: 0, questions: ['1'], students };
}

/** Answers by what the address ends with; what was asked is kept. */
function serve(answers: Readonly<Record<string, (packet: string) => unknown>>) {
	const asked: { path: string; packet: string; body: Record<string, unknown> | null }[] = [];
	vi.stubGlobal('fetch', (address: string, request?: RequestInit) => {
		const [, packet = '', path = ''] = address.match(/([^/]+)\/([^/]+)$/) ?? [];
		const body = request?.body ? (JSON.parse(request.body as string) as Record<string, unknown>) : null;
		asked.push({ path, packet, body });
		const answer = answers[path]?.(packet);
		return Promise.resolve(
			answer instanceof Error
				? Response.json({ message: answer.message }, { status: 409 })
				: Response.json(answer)
		);
	});
	return asked;
}

afterEach(() => void vi.unstubAllGlobals());

describe('a board that is open in a browser', () => {
	it('hands in what is marked, shown and ready, and nothing else', async () => {
		const all = [
			student('Ada'),
			student('Bo'),
			student('Cy', { handedInAt: '2026-11-20T10:00:00Z' }),
			student('Di')
		];
		const asked = serve({
			file: () => ({ id: 'file', state: 'ready' }),
			deliveries: () => ({}),
			board: () => board(all)
		});
		const store = new BoardStore(board(all), 'pdf');
		for (const id of ['ada', 'cy', 'di']) store.mark(id, true);
		store.filter = { ...EVERYBODY, words: 'a' };
		expect(store.chosen.map((s) => s.id)).toEqual(['ada']);
		store.filter = EVERYBODY;
		store.mark('di', false);
		await store.handIn();
		expect(asked.filter((a) => a.path === 'deliveries').map((a) => a.packet)).toEqual(['packet-ada']);
		expect(asked[0]!.body).toEqual({ version: 4, type: 'pdf' });
		expect(store.run).toMatchObject({ done: 1, of: 1, problems: [], isOver: true });
	});

	it('names whom it could not do it for, and goes on with the others', async () => {
		const all = [student('Ada'), student('Bo'), student('Cy')];
		const asked = serve({
			file: (packet) => (packet === 'packet-bo' ? new Error('It was changed.') : { id: 'f', state: 'ready' }),
			deliveries: () => ({}),
			board: () => board(all)
		});
		const store = new BoardStore(board(all), 'zip');
		store.markAll(true);
		await store.handIn();
		expect(store.run).toMatchObject({ done: 3, of: 3, problems: ['Bo Okoro: It was changed.'] });
		expect(asked.filter((a) => a.path === 'deliveries')).toHaveLength(2);
	});

	it('waits for a file that is being made; the same wish again is the same delivery', async () => {
		let looks = 0;
		const all = [student('Ada')];
		const asked = serve({
			file: () => ({ id: 'f', state: ++looks % 2 === 1 ? 'making' : 'ready' }),
			deliveries: () => ({}),
			board: () => board(all)
		});
		const store = new BoardStore(board(all), 'pdf');
		store.markAll(true);
		await store.handIn();
		await store.handIn();
		const keys = asked.filter((a) => a.path === 'deliveries').map((a) => a.body!.key);
		expect(keys).toHaveLength(2);
		expect(new Set(keys).size).toBe(1);
		// Something was changed: that is another wish.
		store.board = board([student('Ada', { version: 5 })]);
		await store.handIn();
		const last = asked.filter((a) => a.path === 'deliveries').at(-1)!;
		expect(last.body!.key).not.toBe(keys[0]);
	});

	it('says of whom nothing was read surely enough', async () => {
		const all = [student('Ada', {}, 'open'), student('Bo', {}, 'open'), student('Cy')];
		serve({ proposed: (packet) => ({ taken: packet === 'packet-bo' }), board: () => board(all) });
		const store = new BoardStore(board(all), 'pdf');
		store.markAll(true);
		await store.takeRead();
		expect(store.run!.of).toBe(2);
		expect(store.run!.problems).toEqual(['Ada Okoro: Nothing was read surely enough. Look at it yourself.']);
	});

	it('ends with the newest state, however late an older one comes', async () => {
		const waiting: ((view: BoardView) => void)[] = [];
		vi.stubGlobal('fetch', () => new Promise((done) => waiting.push((view) => done(Response.json(view)))));
		const store = new BoardStore(board([]), 'pdf');
		const [first, second] = [store.refresh(), store.refresh()];
		// The second is asked for only when the first is there.
		expect(waiting).toHaveLength(1);
		waiting[0]!(board([student('Ada')]));
		await first;
		await expect.poll(() => waiting.length).toBe(2);
		waiting[1]!(board([student('Ada'), student('Bo')]));
		await second;
		expect(store.board.students.map((s) => s.given)).toEqual(['Ada', 'Bo']);
	});

	it('shows everybody whom something is to be done for', () => {
		const store = new BoardStore(board([student('Ada'), student('Bo')]), 'pdf');
		store.filter = { ...EVERYBODY, words: 'bo' };
		store.markOnly(['ada']);
		expect(store.chosen.map((s) => s.id)).toEqual(['ada']);
		store.sortBy('name');
		expect(store.shown.map((s) => s.given)).toEqual(['Bo', 'Ada']);
	});
});
