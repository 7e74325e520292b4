import { afterEach, describe, expect, it, vi } from 'vitest';
import { EMPTY_PACKET } from '../core/packet/packet';
import type { PageRecord } from '../core/page/pageRecord';
import type { Judged, Judgement } from '../core/check/judgement';
import { Judging, type JudgeRequest } from './judging';

/** A worker that answers when it is told to. */
class FakeWorker extends EventTarget {
	static latest: FakeWorker;
	readonly asked: JudgeRequest[] = [];
	constructor() {
		super();
		FakeWorker.latest = this;
	}
	postMessage(request: JudgeRequest): void {
		this.asked.push(request);
	}
	answer(): void {
		const judgement: Judgement = { findings: [], order: null, seams: [] };
		this.dispatchEvent(new MessageEvent('message', { data: { id: this.asked.at(-1)!.id, judgement } }));
	}
	terminate(): void {}
}

const record = (key: string) => ({ key }) as PageRecord;
const state = (title: string, records: Record<string, PageRecord>): Judged => ({
	sheet: { title, questions: [] },
	packet: EMPTY_PACKET,
	records,
	person: { given: 'Ilka', family: 'Brandsma' }
});

describe('Judging', () => {
	afterEach(() => vi.unstubAllGlobals());

	it('works out one state at a time, and of those that come meanwhile only the latest', () => {
		vi.stubGlobal('Worker', FakeWorker);
		let done = 0;
		const judging = new Judging(() => done++);
		const { asked } = FakeWorker.latest;
		for (const title of ['one', 'two', 'three']) judging.judge(state(title, {}));
		expect(asked.map((r) => r.sheet.title)).toEqual(['one']);
		FakeWorker.latest.answer();
		expect([asked.map((r) => r.sheet.title), done]).toEqual([['one', 'three'], 1]);
		FakeWorker.latest.answer();
		expect([asked.length, done]).toEqual([2, 2]);
	});

	it('sends only the records that are new, also of states that it passed over', () => {
		vi.stubGlobal('Worker', FakeWorker);
		const judging = new Judging(() => undefined);
		const { asked } = FakeWorker.latest;
		const [a, b, c] = [record('a'), record('b'), record('c')];
		judging.judge(state('one', { p: a, q: b }));
		judging.judge(state('two', { p: c, q: b }));
		judging.judge(state('three', { p: c, q: b, r: a }));
		FakeWorker.latest.answer();
		expect(asked.map((r) => r.changed)).toEqual([
			{ p: a, q: b },
			{ p: c, r: a }
		]);
	});
});
