import type { PageRecord } from '../core/page/pageRecord';
import type { Judged, Judgement } from '../core/check/judgement';

export interface JudgeRequest extends Omit<Judged, 'records'> {
	readonly id: number;
	/** Records that are new since the request before. */
	readonly changed: Readonly<Record<string, PageRecord>>;
}

export interface JudgeAnswer {
	readonly id: number;
	readonly judgement: Judgement;
}

/**
 * Judges a large packet beside the page, one state after the other: while one is worked out, only the latest of those
 * that come waits.
 */
export class Judging {
	readonly #worker = new Worker(new URL('./judge.worker.ts', import.meta.url), { type: 'module' });
	#sent: Readonly<Record<string, PageRecord>> = {};
	#waiting: Judged | null = null;
	#id = 0;
	#isBusy = false;

	constructor(readonly done: (judgement: Judgement) => void) {
		this.#worker.addEventListener('message', ({ data }: MessageEvent<JudgeAnswer>) => {
			this.#isBusy = false;
			this.done(data.judgement);
			if (this.#waiting) this.judge(this.#waiting);
		});
	}

	judge(input: Judged): void {
		this.#waiting = input;
		if (this.#isBusy) return;
		this.#waiting = null;
		this.#isBusy = true;
		const { records, ...rest } = input;
		const changed = Object.fromEntries(
			Object.entries(records).filter(([page, record]) => this.#sent[page] !== record)
		);
		this.#sent = records;
		const request: JudgeRequest = { ...rest, id: ++this.#id, changed };
		this.#worker.postMessage(request);
	}

	close(): void {
		this.#worker.terminate();
	}
}
