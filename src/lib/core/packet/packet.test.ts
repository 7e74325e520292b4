import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply, ChangeError, replay, type Change } from './change';
import { changeSchema } from './changeSchema';
import { earlierPictures } from './earlierPictures';
import { describeChange } from './describeChange';
import { verdictInForce } from './proofread';
import { undoStacks, type HistoryEntry } from './history';
import { EMPTY_PACKET, otherHalf, positionOf, type Packet, type Page } from './packet';

const page = (id: string): Page => ({
	id,
	source: 's',
	sourcePage: 0,
	corners: null,
	turn: null,
	tone: null
});
const IDS = ['a', 'b', 'c', 'd'];
const start = apply(EMPTY_PACKET, { kind: 'addPages', pages: IDS.map(page), at: 0 }).packet;

const id = fc.constantFrom(...IDS);
const index = fc.integer({ min: 0, max: 6 });
const coordinate = fc.integer({ min: 0, max: 4000 });
const edit: fc.Arbitrary<Change> = fc.oneof(
	fc.record({
		kind: fc.constant('setCorners' as const),
		page: id,
		corners: fc.option(
			fc.array(fc.tuple(coordinate, coordinate), { minLength: 4, maxLength: 4 }) as never as fc.Arbitrary<
				NonNullable<Page['corners']>
			>
		)
	}),
	fc.record({
		kind: fc.constant('setTurn' as const),
		page: id,
		turn: fc.constantFrom(0, 90, 180, 270, null)
	}),
	fc.record({
		kind: fc.constant('setTone' as const),
		page: id,
		tone: fc.option(
			fc.record({
				name: fc.constantFrom('colour' as const, 'greyscale' as const, 'black-and-white' as const),
				evenLight: fc.boolean(),
				inkWeight: fc.integer({ min: -2, max: 2 })
			})
		)
	}),
	fc.record({
		kind: fc.constant('place' as const),
		page: id,
		to: fc.oneof(
			fc.record({ on: fc.constant('strip' as const), index }),
			fc.record({
				on: fc.constant('tray' as const),
				index,
				reason: fc.constantFrom('duplicate' as const, 'blank' as const, 'extra' as const)
			})
		)
	}),
	fc.record({
		kind: fc.constant('setSeam' as const),
		seam: fc.record({
			id: fc.constantFrom('s1', 's2', 's3'),
			page: id,
			y: fc.integer({ min: 0, max: 100 }).map((n) => n / 100),
			questions: fc.subarray(['1', '2a', '2b'])
		})
	}),
	fc.record({
		kind: fc.constant('setProofread' as const),
		page: id,
		proofread: fc.option(
			fc.record({
				verdict: fc.constantFrom('fine' as const, 'needs-work' as const),
				seen: fc.constantFrom('k1', 'k2')
			})
		)
	}),
	fc.record({
		kind: fc.constant('setNumber' as const),
		page: id,
		number: fc.constantFrom(null, 'as-read' as const, 1, 2)
	}),
	fc.record({ kind: fc.constant('setLevel' as const), page: id, level: fc.boolean() }),
	fc.record({
		kind: fc.constant('setDeclined' as const),
		key: fc.constantFrom('p1 2a', 'p2 1', 'order 3'),
		declined: fc.boolean()
	}),
	fc.record({
		kind: fc.constant('setEncoding' as const),
		page: id,
		encoding: fc.option(
			fc.record({ dotsPerInch: fc.constantFrom(110, 150), quality: fc.constantFrom(32, 50) })
		)
	}),
	fc.record({
		kind: fc.constant('setNote' as const),
		rule: fc.constantFrom('legibility' as const, 'pageCount' as const),
		note: fc.option(fc.constantFrom('The lamp was broken.', 'One page is enough.'))
	}),
	fc.record({ kind: fc.constant('removeSeam' as const), seam: fc.constantFrom('s1', 's2', 's3') }),
	fc.record({
		kind: fc.constant('setAttempted' as const),
		question: fc.constantFrom('1', '2a'),
		attempted: fc.boolean()
	}),
	fc.record({ kind: fc.constant('setFileName' as const), name: fc.option(fc.string({ maxLength: 10 })) })
);
const halving = fc.oneof(
	fc.record({
		kind: fc.constant('split' as const),
		page: id,
		first: fc.constantFrom(0 as const, 1 as const),
		second: fc.constantFrom('x', 'y')
	}),
	fc.record({ kind: fc.constant('join' as const), page: id })
);
const change = fc.oneof(
	edit,
	fc.record({
		kind: fc.constant('together' as const),
		changes: fc.array(edit, { minLength: 1, maxLength: 4 })
	})
);

/** Applies what fits; a change about a seam that is not there is refused, which is tested on its own. */
function tryApply(packet: Packet, what: Change) {
	try {
		return apply(packet, what);
	} catch (error) {
		expect(error).toBeInstanceOf(ChangeError);
		return null;
	}
}

describe('apply', () => {
	it('gives an inverse that brings back the same packet, and leaves the old one untouched', () => {
		fc.assert(
			fc.property(fc.array(fc.oneof(change, halving), { maxLength: 12 }), (changes) => {
				let packet = start;
				for (const what of changes) {
					const before = structuredClone(packet);
					const applied = tryApply(packet, what);
					expect(packet).toEqual(before);
					if (!applied) continue;
					expect(apply(applied.packet, applied.inverse).packet).toEqual(packet);
					packet = applied.packet;
				}
			})
		);
	});

	it('any sequence of changes and undos back to the start gives the start', () => {
		fc.assert(
			fc.property(fc.array(fc.oneof(change, halving), { maxLength: 15 }), (changes) => {
				let packet = start;
				const inverses: Change[] = [];
				for (const what of changes) {
					const applied = tryApply(packet, what);
					if (!applied) continue;
					packet = applied.packet;
					inverses.unshift(applied.inverse);
				}
				for (const inverse of inverses) packet = apply(packet, inverse).packet;
				expect(packet).toEqual(start);
			})
		);
	});

	it('never loses a page: each is on the strip or in the tray, once', () => {
		fc.assert(
			fc.property(fc.array(change, { maxLength: 20 }), (changes) => {
				const packet = changes.reduce((p, what) => tryApply(p, what)?.packet ?? p, start);
				expect([...packet.strip, ...packet.tray.map((t) => t.page)].sort()).toEqual(IDS);
			})
		);
	});

	it('every edit passes the schema that guards the server, and is described', () => {
		fc.assert(
			fc.property(fc.oneof(change, halving), (what) => {
				expect(changeSchema.validate(what).error).toBeUndefined();
				expect(describeChange(what).length).toBeGreaterThan(3);
			})
		);
	});

	it('splits a picture into two pages and joins them again, with the seams of both', () => {
		const whole = { id: 'a', source: 's1', sourcePage: 0, corners: null, turn: 90, tone: null } as const;
		const one = replay([{ kind: 'addPages', pages: [whole, page('z')], at: 0 }]);
		const { packet: two } = apply(one, { kind: 'split', page: 'a', first: 1, second: 'b' });
		expect(two.strip).toEqual(['a', 'b', 'z']);
		expect(two.pages.a).toEqual({ ...whole, half: 1 });
		expect(two.pages.b).toEqual({ ...whole, id: 'b', half: 0 });
		expect(otherHalf(two, two.pages.a!)).toBe(two.pages.b);
		expect(otherHalf(two, two.pages.z!)).toBeNull();
		const seam = { id: 's', page: 'b', y: 0.5, questions: ['1'] };
		const worked = replay([
			{ kind: 'addPages', pages: [whole, page('z')], at: 0 },
			{ kind: 'split', page: 'a', first: 1, second: 'b' },
			{ kind: 'setSeam', seam },
			{ kind: 'place', page: 'b', to: { on: 'tray', index: 0, reason: 'extra' } }
		]);
		const joined = apply(worked, { kind: 'join', page: 'a' });
		expect(joined.packet).toEqual(one);
		expect(apply(joined.packet, joined.inverse).packet).toEqual(worked);
		expect(() => apply(two, { kind: 'split', page: 'a', first: 0, second: 'c' })).toThrow(ChangeError);
		expect(() => apply(one, { kind: 'join', page: 'a' })).toThrow(ChangeError);
	});

	it('refuses what does not fit', () => {
		expect(() => apply(start, { kind: 'setTurn', page: 'nobody', turn: 90 })).toThrow(ChangeError);
		expect(() => apply(start, { kind: 'setTurn', page: 'constructor', turn: 90 })).toThrow(ChangeError);
		expect(() => apply(start, { kind: 'removeSeam', seam: 'none' })).toThrow(ChangeError);
		expect(() => apply(start, { kind: 'addPages', pages: [page('a')], at: 0 })).toThrow(ChangeError);
		const seamed = apply(start, {
			kind: 'setSeam',
			seam: { id: 's', page: 'a', y: 0, questions: [] }
		}).packet;
		expect(() => apply(seamed, { kind: 'removePages', pages: ['a'] })).toThrow(ChangeError);
	});

	it('the schema refuses what only the server may do, and nonsense', () => {
		for (const bad of [
			{ kind: 'addPages', pages: [], at: 0 },
			{ kind: 'removePages', pages: ['a'] },
			{ kind: 'setTurn', page: 'a', turn: 45 },
			{ kind: 'setCorners', page: 'a', corners: [[0, 0]] },
			{ kind: 'setSeam', seam: { id: 's', page: 'a', y: 2, questions: [] } },
			{ kind: 'together', changes: [{ kind: 'together', changes: [] }] },
			null
		]) {
			expect(changeSchema.validate(bad).error).toBeDefined();
		}
	});

	it('replays a history and knows positions', () => {
		const packet = replay([
			{ kind: 'addPages', pages: [page('a'), page('b')], at: 0 },
			{ kind: 'place', page: 'b', to: { on: 'strip', index: 0 } },
			{ kind: 'addPages', pages: [page('c')], at: 99 },
			{ kind: 'place', page: 'a', to: { on: 'tray', index: 0, reason: 'extra' } }
		]);
		expect(packet.strip).toEqual(['b', 'c']);
		expect(positionOf(packet, 'c')).toBe(2);
		expect(positionOf(packet, 'a')).toBeNull();
	});
});

describe('earlierPictures', () => {
	it('are those a page had before, latest first, each once, and never the one it has', () => {
		const picture = (source: string) => ({ source, sourcePage: 0, corners: null, turn: null });
		const changes: Change[] = [
			{ kind: 'addPages', pages: [{ ...page('a'), source: 'one' }, page('b')], at: 0 },
			{ kind: 'setPicture', page: 'a', picture: picture('two') },
			{ kind: 'together', changes: [{ kind: 'setPicture', page: 'a', picture: picture('three') }] },
			{ kind: 'setPicture', page: 'b', picture: picture('other') },
			{ kind: 'setPicture', page: 'a', picture: picture('two') }
		];
		const earlier = earlierPictures(changes, replay(changes).pages.a!);
		expect(earlier.map((p) => p.source)).toEqual(['three', 'one']);
	});
});

describe('verdictInForce', () => {
	it('holds only for the page that was read', () => {
		const read = { ...page('a'), proofread: { verdict: 'fine', seen: 'k1' } } as const;
		expect(verdictInForce(read, 'k1')).toBe('fine');
		expect(verdictInForce(read, 'k2')).toBeNull();
		expect(verdictInForce(page('a'), 'k1')).toBeNull();
		expect(verdictInForce(undefined, undefined)).toBeNull();
	});
});

describe('undoStacks', () => {
	const entry = (version: number, kind: HistoryEntry['kind'], target: number | null = null) => ({
		version,
		kind,
		target
	});

	it('undoes latest first, redoes in turn, and passes over the machine', () => {
		const history = [entry(1, 'machine'), entry(2, 'edit'), entry(3, 'edit'), entry(4, 'machine')];
		expect(undoStacks(history)).toEqual({ undo: [2, 3], redo: [] });
		const undone = [...history, entry(5, 'undo', 3), entry(6, 'undo', 2)];
		expect(undoStacks(undone)).toEqual({ undo: [], redo: [3, 2] });
		expect(undoStacks([...undone, entry(7, 'redo', 2)])).toEqual({ undo: [2], redo: [3] });
	});

	it('a new edit ends what could be redone', () => {
		const history = [entry(1, 'edit'), entry(2, 'undo', 1), entry(3, 'edit')];
		expect(undoStacks(history)).toEqual({ undo: [3], redo: [] });
	});
});
