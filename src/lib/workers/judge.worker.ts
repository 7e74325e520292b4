import type { PageRecord } from '../core/page/pageRecord';
import { judge } from '../core/check/judgement';
import type { JudgeRequest, JudgeAnswer } from './judging';

const records: Record<string, PageRecord> = {};

addEventListener('message', ({ data }: MessageEvent<JudgeRequest>) => {
	const { id, changed, ...input } = data;
	Object.assign(records, changed);
	const answer: JudgeAnswer = { id, judgement: judge({ ...input, records }) };
	postMessage(answer);
});
