import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply } from '../../core/packet/change';
import { EMPTY_PACKET, type Packet } from '../../core/packet/packet';
import type { SourceRow } from '../store/sources';
import { placeSource } from './placeSource';

let made = 0;
function file(name: string, change: Partial<SourceRow> = {}): SourceRow {
	return {
		// The beginning of an id names its pages.
		id: `${String(++made).padStart(13, '0')}-${name}`,
		packetId: 'p',
		name,
		sha256: name,
		bytes: 1,
		batch: 0,
		place: 0,
		type: 'jpeg',
		state: 'ready',
		problem: null,
		takenAt: null,
		clientKey: null,
		afterPage: null,
		replaces: null,
		broughtBy: null,
		phoneLinkId: null,
		news: 0,
		...change
	};
}

/** The packet once files were taken in, one after the other. */
function taken(
	order: readonly SourceRow[],
	sources: readonly SourceRow[],
	{ from = EMPTY_PACKET, pictures = 1 }: { from?: Packet; pictures?: number } = {}
): Packet {
	return order.reduce((packet, source) => {
		const change = placeSource(packet, source, pictures, sources, null);
		return change ? apply(packet, change).packet : packet;
	}, from);
}

const names = (packet: Packet, sources: readonly SourceRow[]) =>
	packet.strip.map((page) => sources.find((s) => s.id === packet.pages[page]!.source)!.name);

describe('files that are taken in', () => {
	it.each([
		['given with their places', [...'abcdef'].map((name, place) => file(name, { batch: 7, place }))],
		['given in several goes', [...'abcdef'].map((name, i) => file(name, { batch: i >> 1, place: i & 1 }))],
		['that say nothing of their order: as they came', [...'abcdef'].map((name) => file(name))],
		['given behind one page', [...'abcdef'].map((name, place) => file(name, { place, afterPage: '' }))]
	])('stand in their order, whichever is ready first: %s', (_, sources) => {
		fc.assert(
			fc.property(fc.shuffledSubarray([...sources]), fc.integer({ min: 1, max: 3 }), (order, pictures) => {
				const packet = taken(order, sources, { pictures });
				const inOrder = sources.filter((s) => order.includes(s));
				expect(names(packet, sources)).toEqual(inOrder.flatMap((s) => Array(pictures).fill(s.name)));
			}),
			{ numRuns: 60, seed: 4 }
		);
	});

	it('go behind the page that was pointed at, and to the end where it is gone', () => {
		const sources = [file('a'), file('b')];
		const packet = taken(sources, sources);
		const behind = file('c', { batch: 1, afterPage: packet.strip[0]! });
		const lost = file('d', { batch: 2, afterPage: 'gone' });
		const all = [...sources, behind, lost];
		expect(names(taken([behind, lost], all, { from: packet }), all)).toEqual(['a', 'c', 'b', 'd']);
	});

	it('leave what a person moved where it is', () => {
		const sources = [...'abc'].map((name, place) => file(name, { place }));
		const [a, b, c] = sources as [SourceRow, SourceRow, SourceRow];
		const two = taken([a, c], sources);
		const moved = apply(two, {
			kind: 'place',
			page: two.strip[1]!,
			to: { on: 'strip', index: 0 }
		}).packet;
		expect(names(taken([b], sources, { from: moved }), sources)).toEqual(['c', 'a', 'b']);
	});

	it('come once', () => {
		const sources = [file('a')];
		expect(placeSource(taken(sources, sources), sources[0]!, 1, sources, null)).toBeNull();
	});
});
