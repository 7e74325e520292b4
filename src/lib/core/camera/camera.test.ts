import { describe, expect, it } from 'vitest';
import { situationSpec, specimenPage } from '../../../../bench/situations';
import { photograph, type PhotographSpec } from '../../../../demo/generator/photograph';
import { overlap } from '../sheet/geometry';
import { lookAtFrame, signatureLikeness, type FrameFacts } from './lookAtFrame';
import { afterShot, describeObstacle, WATCH_BEGIN, watchFrame, type WatchState } from './shotWatch';

/** A frame of a live camera with a page in it. */
function frame(seed: number, change: Partial<PhotographSpec> = {}, page = seed) {
	const spec = { ...situationSpec('plain wood', seed, [600, 800]), lies: 0 as const, blur: 0.4, ...change };
	return photograph(specimenPage(page, 5).picture, spec);
}

/** Feeds the same frame for a while, at 20 a second. */
function feed(state: WatchState, facts: FrameFacts, from: number, milliseconds: number) {
	let watched = watchFrame(state, facts, from);
	let taken = watched.take ? from : null;
	for (let t = from + 50; t <= from + milliseconds; t += 50) {
		watched = watchFrame(watched.state, facts, t);
		if (watched.take) taken ??= t;
	}
	return { ...watched, taken };
}

describe('lookAtFrame', () => {
	it.each(['plain wood', 'white on white', 'checked cloth', 'hard shadow', 'keystone'] as const)(
		'finds the sheet in a small frame: %s',
		(situation) => {
			for (const seed of [21, 22]) {
				const spec = { ...situationSpec(situation, seed, [600, 800]), blur: 0.5 };
				const { picture, corners } = photograph(specimenPage(seed, 5).picture, spec);
				const { outline } = lookAtFrame(picture);
				expect(outline.kind).toBe('sheet');
				expect(overlap(outline.corners, corners)).toBeGreaterThan(0.97);
			}
		}
	);

	it('tells a blurred frame from a sharp one', () => {
		const sharp = lookAtFrame(frame(23).picture).sharpness;
		const blurred = lookAtFrame(frame(23, { blur: 2.2 }).picture).sharpness;
		expect(sharp).toBeGreaterThan(0.6);
		expect(blurred).toBeLessThan(0.4);
	});

	it('knows the page again after a small move and not another page', () => {
		const one = lookAtFrame(frame(24).picture).signature;
		const again = lookAtFrame(frame(24, { slant: 2, shift: [0.01, 0] }).picture).signature;
		const other = lookAtFrame(frame(24, {}, 31).picture).signature;
		expect(signatureLikeness(one, again)).toBeGreaterThan(0.6);
		expect(signatureLikeness(one, other)).toBeLessThan(0.5);
	});
});

describe('watchFrame', () => {
	it('takes a whole, sharp, lit sheet after it has lain still for a moment, and only then', () => {
		const facts = lookAtFrame(frame(25).picture);
		const early = feed(WATCH_BEGIN, facts, 0, 600);
		expect(early.taken).toBeNull();
		expect(early.obstacle).toBeNull();
		expect(early.steady).toBeGreaterThan(0.5);
		expect(feed(early.state, facts, 650, 300).taken).not.toBeNull();
	});

	it('waits while the sheet moves', () => {
		let state = WATCH_BEGIN;
		for (let i = 0; i < 30; i++) {
			const facts = lookAtFrame(frame(26, { shift: [i % 2 === 0 ? 0.03 : -0.03, 0] }).picture);
			const watched = watchFrame(state, facts, i * 50);
			expect(watched.take).toBe(false);
			state = watched.state;
			if (i === 3) i = 27;
		}
	});

	it('names what is in the way', () => {
		const kindOf = (change: Partial<PhotographSpec>) => {
			const { obstacle } = feed(WATCH_BEGIN, lookAtFrame(frame(27, change).picture), 0, 1500);
			return obstacle && { kind: obstacle.kind, words: describeObstacle(obstacle) };
		};
		expect(kindOf({ blur: 2.5 })).toEqual({ kind: 'blurred', words: 'Blurred: hold still, or let it focus' });
		expect(kindOf({ fill: 0.42 })).toEqual({ kind: 'far', words: 'Go closer' });
		expect(kindOf({ shift: [0, 0.2], fill: 0.8 })).toEqual({
			kind: 'cut-off',
			words: 'The sheet’s lower edge is outside'
		});
		expect(kindOf({})).toBeNull();
	});

	it('says too dark in the dark', () => {
		const { picture } = frame(28);
		const dark = lookAtFrame({ ...picture, data: picture.data.map((v) => v * 0.22) });
		expect(feed(WATCH_BEGIN, dark, 0, 1500).obstacle?.kind).toBe('dark');
	});

	it('does not take a page twice until it has gone', () => {
		const facts = lookAtFrame(frame(29).picture);
		const other = lookAtFrame(frame(29, {}, 33).picture);
		const desk = lookAtFrame(frame(29, { shift: [5, 5] }).picture);
		const state = afterShot(facts);
		expect(feed(state, facts, 0, 2000)).toMatchObject({ taken: null, obstacle: { kind: 'taken-already' } });
		expect(feed(state, other, 0, 1000).taken).not.toBeNull();
		expect(desk.outline.kind).toBe('whole');
		const gone = feed(state, desk, 0, 100);
		expect(gone.obstacle?.kind).toBe('no-sheet');
		expect(feed(gone.state, facts, 150, 1000).taken).not.toBeNull();
	});
});
