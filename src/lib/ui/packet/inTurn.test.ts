import { describe, expect, it } from 'vitest';
import { inTurn } from './inTurn';

/** Work that ends when told to, and what was done of it. */
function held() {
	const begun: { end: () => void; fail: (error: Error) => void }[] = [];
	const work = () => new Promise<void>((end, fail) => begun.push({ end, fail }));
	return { begun, work };
}
const soon = () => new Promise((done) => setImmediate(done));

describe('one at a time', () => {
	it('begins once more after whoever asked meanwhile, and only once for all of them', async () => {
		const { begun, work } = held();
		const ask = inTurn(work);
		const first = ask();
		const others = [ask(), ask(), ask()];
		expect(begun).toHaveLength(1);
		begun[0]!.end();
		await first;
		await soon();
		expect(begun).toHaveLength(2);
		const later = ask();
		begun[1]!.end();
		await Promise.all(others);
		await soon();
		expect(begun).toHaveLength(3);
		begun[2]!.end();
		await later;
		expect(begun).toHaveLength(3);
	});

	it('goes on after one that failed, which only its own asker hears of', async () => {
		const { begun, work } = held();
		const ask = inTurn(work);
		const first = ask();
		const second = ask();
		begun[0]!.fail(new Error('Away.'));
		await expect(first).rejects.toThrow('Away.');
		await soon();
		begun[1]!.end();
		await expect(second).resolves.toBeUndefined();
	});
});
