import { describe, expect, it } from 'vitest';
import { apply, replay } from '../../core/packet/change';
import type { Page } from '../../core/packet/packet';
import type { PictureFacts } from '../../core/page/preparePage';
import { splitInMiddle } from '../../core/sheet/fold';
import { wholePicture } from '../../core/sheet/geometry';
import { splitSpread } from './splitSpread';

const page: Page = { id: 'a', source: 's', sourcePage: 2, corners: null, turn: null, tone: null };
const packet = replay([{ kind: 'addPages', pages: [page, { ...page, id: 'z', sourcePage: 3 }], at: 0 }]);

/** A notebook seen from above, lying so that it has to be turned by this. */
function facts(turn: 0 | 90 | 180 | 270): PictureFacts {
	const size = turn % 180 === 0 ? { width: 1400, height: 1000 } : { width: 1000, height: 1400 };
	const corners = wholePicture(size.width, size.height);
	return {
		...size,
		outline: { corners, confidence: 1, kind: 'sheet', cutOff: [] },
		spread: { ...splitInMiddle(corners, size), confidence: 0.9 },
		turn: { turn, confidence: 0.9 }
	};
}

describe('splitSpread', () => {
	it.each([
		[0, 0],
		[90, 1],
		[180, 1],
		[270, 0]
	] as const)('puts the page that is read first before the other, turned by %i', (turn, first) => {
		const change = splitSpread(packet, 's', 2, facts(turn))!;
		const { strip, pages } = apply(packet, change).packet;
		expect(strip).toHaveLength(3);
		expect(strip[2]).toBe('z');
		expect(strip.slice(0, 2).map((id) => pages[id]!.half)).toEqual([first, 1 - first]);
	});

	it('leaves alone what a person has worked on, what is split already, and what has no fold', () => {
		const corners = wholePicture(10, 10);
		const worked = apply(packet, { kind: 'setCorners', page: 'a', corners }).packet;
		const aside = apply(packet, {
			kind: 'place',
			page: 'a',
			to: { on: 'tray', index: 0, reason: 'extra' }
		}).packet;
		const split = apply(packet, splitSpread(packet, 's', 2, facts(0))!).packet;
		for (const other of [worked, aside, split]) expect(splitSpread(other, 's', 2, facts(0))).toBeNull();
		const { spread, ...single } = facts(0);
		expect(spread).toBeDefined();
		expect(splitSpread(packet, 's', 2, single)).toBeNull();
	});
});
