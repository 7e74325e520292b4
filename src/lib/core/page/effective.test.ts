import { describe, expect, it } from 'vitest';
import { foundTurn, SURE_TURN, turnOf } from './effective';

describe('the turn in force', () => {
	const layout = { turn: 180, confidence: 0.9 } as const;

	it('is the layout’s until the picture has been read, and then reading’s alone', () => {
		expect(turnOf({ turn: null }, { turn: layout })).toBe(180);
		const readTurn = { turn: 90, confidence: 0.8 } as const;
		expect(turnOf({ turn: null }, { turn: layout, readTurn })).toBe(90);
		expect(foundTurn({ turn: layout, readTurn })).toBe(readTurn);
	});

	it('stays as the picture came where reading does not decide, and is said to be unsure', () => {
		const readTurn = { turn: 270, confidence: 0.3 } as const;
		const found = { turn: layout, readTurn };
		expect(turnOf({ turn: null }, found)).toBe(0);
		expect(foundTurn(found).confidence).toBeLessThan(SURE_TURN);
		expect(turnOf({ turn: 90 }, found)).toBe(90);
	});
});
