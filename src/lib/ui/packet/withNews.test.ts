import { describe, expect, it } from 'vitest';
import { apply, type Change } from '$lib/core/packet/change';
import { EMPTY_PACKET } from '$lib/core/packet/packet';
import type { PageRecord } from '$lib/core/page/pageRecord';
import type { PacketNews, PacketView, SourceView } from '$lib/server/view/packetView';
import { withNews } from './withNews';

const record = (key: string) => ({ key }) as PageRecord;
const source = (id: string, place: number, state: SourceView['state'] = 'waiting'): SourceView => ({
	id,
	name: `${id}.jpg`,
	bytes: 1,
	batch: 0,
	place,
	state,
	problem: null,
	clientKey: null
});
const BESIDE = { deliveries: [], troubles: [], phone: null, returns: [], moreTime: null, now: 7 };
const VIEW: PacketView = {
	...BESIDE,
	id: 'x',
	version: 3,
	news: 10,
	packet: EMPTY_PACKET,
	canUndo: false,
	canRedo: false,
	assignment: { id: 'w', courseCode: 'HY-2', ruleSheet: { title: 'W', questions: [] }, version: 1 },
	owner: { given: 'Ilka', family: 'Brandsma' },
	as: 'owner',
	findings: null,
	sources: [source('b', 2)],
	pages: { p: record('old'), q: record('stays') }
};
const news = (change: Partial<PacketNews>): PacketNews => ({
	...BESIDE,
	version: 3,
	news: 11,
	changes: [],
	sources: [],
	pages: {},
	...change
});
const named = (name: string): Change => ({ kind: 'setFileName', name });

describe('withNews', () => {
	it('puts in the pages that are new, and leaves all others the very same', () => {
		const after = withNews(VIEW, news({ pages: { p: record('new') } }))!;
		expect(after).toMatchObject({ news: 11, pages: { p: { key: 'new' } } });
		expect(after.pages.q).toBe(VIEW.pages.q);
		expect(after.packet).toBe(VIEW.packet);
		expect(after.sources).toBe(VIEW.sources);
	});

	it('makes the changes that it has not made yet, and only those', () => {
		const known = { ...VIEW, packet: apply(EMPTY_PACKET, named('three')).packet };
		const changes = [3, 4, 5].map((version) => ({ version, change: named(String(version)) }));
		const after = withNews(known, news({ version: 5, changes, undo: { canUndo: true, canRedo: false } }))!;
		expect(after).toMatchObject({ version: 5, canUndo: true, packet: { fileName: '5' } });
		expect(withNews(after, news({ version: 5, changes }))!.packet).toEqual(after.packet);
	});

	it('says when a change between is missing, or does not fit', () => {
		const late = [{ version: 5, change: named('five') }];
		expect(withNews(VIEW, news({ version: 5, changes: late }))).toBeNull();
		expect(withNews(VIEW, news({ version: 4, changes: [] }))).toBeNull();
		const foreign = [{ version: 4, change: { kind: 'setTurn', page: 'nowhere', turn: 90 } as Change }];
		expect(withNews(VIEW, news({ version: 4, changes: foreign }))).toBeNull();
	});

	it('is not led back by news that come late', () => {
		expect(withNews(VIEW, news({ news: 9, pages: { p: record('older') } }))).toBe(VIEW);
		expect(withNews(VIEW, news({ version: 2, pages: { p: record('older') } }))).toBe(VIEW);
	});

	it('keeps files in the sequence in which they were given, each once', () => {
		const after = withNews(
			VIEW,
			news({ sources: [source('c', 3), source('a', 1), source('b', 2, 'ready')] })
		)!;
		expect(after.sources.map((s) => [s.id, s.state])).toEqual([
			['a', 'waiting'],
			['b', 'ready'],
			['c', 'waiting']
		]);
	});
});
