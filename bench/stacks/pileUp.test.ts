import { describe, expect, it } from 'vitest';
import { Random } from '../../demo/generator/random';
import { inPileOrder } from '../../src/lib/core/stack/feeding';
import { pileUp, type PiledPage } from './pileUp';

interface Numbered extends PiledPage {
	readonly nth: number;
}

const PEOPLE = [...'abcdefgh'];
const LENGTH = 4;
const written = (owner: string | null, nth: number, role: PiledPage['role'] = 'page'): Numbered => ({
	owner,
	nth,
	role,
	named: true,
	lies: 0
});

function piled(seed: number, isDuplex: boolean) {
	const packets = PEOPLE.map((owner) => Array.from({ length: LENGTH }, (_, nth) => written(owner, nth)));
	return pileUp<Numbered>(
		{
			packets,
			isDuplex,
			blank: (owner) => written(owner, -1, 'blank'),
			other: () => written(null, 0, 'other')
		},
		new Random(seed)
	);
}

describe('a pile', () => {
	const piles = Array.from({ length: 60 }, (_, seed) => piled(seed, seed % 2 === 1));

	it('holds what everybody wrote, in order but for what lies in another’s packet, and says what is missing or twice', () => {
		for (const { pages, feeding, about } of piles) {
			const inOrder = inPileOrder(feeding, pages.length).map((i) => pages[i]!);
			const count = (what: string) => about.filter((said) => said === what).length;
			const own = (role: PiledPage['role']) => pages.filter((p) => p.role === role);
			expect(own('page').length + own('stray').length).toBe(PEOPLE.length * LENGTH - count('a page missing'));
			expect(own('twice').length).toBe(count('a page twice'));
			expect(own('other').length).toBe(count('a page of another assignment'));
			expect(own('stray').length > 0).toBe(count('a stray') > 0);
			for (const owner of PEOPLE) {
				const theirs = inOrder.filter((p) => p.owner === owner && p.role === 'page').map((p) => p.nth);
				expect(theirs).toEqual([...theirs].sort((a, b) => a - b));
			}
			const owners = inOrder.filter((p) => p.role === 'page').map((p) => p.owner);
			expect(owners.filter((owner, i) => owner !== owners[i - 1])).toEqual(PEOPLE);
		}
	});

	it('lies as it is said to, with everything that can happen to it', () => {
		const all = new Set(piles.flatMap((pile) => [...pile.about]));
		expect([...all].sort()).toEqual([
			'a page missing',
			'a page of another assignment',
			'a page twice',
			'a stray',
			'fronts, then backs',
			'fronts, then backs from the last',
			'some upside down'
		]);
		for (const { pages, about } of piles)
			expect(pages.some((p) => p.lies === 180)).toBe(about.includes('some upside down'));
		const fedTwice = piles.filter((pile) => pile.feeding !== 'as fed');
		expect(fedTwice.length).toBeGreaterThan(0);
		for (const { pages } of fedTwice) expect(pages.length % 2).toBe(0);
	});
});
