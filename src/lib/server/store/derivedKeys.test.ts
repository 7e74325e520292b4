import { describe, expect, it } from 'vitest';
import type { Page } from '../../core/packet/packet';
import { wholePicture } from '../../core/sheet/geometry';
import { DEFAULT_TONE, type Tone } from '../../core/tone/tone';
import { preparedKey, readingKey } from './derivedKeys';

const PAGE: Page = { id: 'p', source: 's', sourcePage: 0, corners: null, turn: null, tone: null };
const SHA = 'a'.repeat(64);
const strip = { id: 'm', kind: 'strip', corners: wholePicture(50, 20) } as const;
const words = { id: 'n', kind: 'words', colour: 'ink', size: 6, at: [10, 10], text: 'overleaf' } as const;

const prepared = (change: Partial<Page> = {}, tone: Tone = DEFAULT_TONE) =>
	preparedKey(SHA, { ...PAGE, ...change }, tone, undefined);
const read = (change: Partial<Page> = {}) => readingKey(SHA, { ...PAGE, ...change }, undefined, null, []);

describe('the key of a page', () => {
	it('is another one for everything that shapes it, and all of these differ', () => {
		const shapes: Partial<Page>[] = [
			{},
			{ sourcePage: 1 },
			{ corners: wholePicture(100, 100) },
			{ turn: 90 },
			{ half: 0 },
			{ half: 1 },
			{ level: false },
			{ marks: [strip] }
		];
		expect(new Set(shapes.map((shape) => prepared(shape))).size).toBe(shapes.length);
		expect(new Set(shapes.map((shape) => read(shape))).size).toBe(shapes.length);
		expect(preparedKey('b'.repeat(64), PAGE, DEFAULT_TONE, undefined)).not.toBe(prepared());
		expect(preparedKey(SHA, PAGE, DEFAULT_TONE, 'A4')).not.toBe(prepared());
		expect(preparedKey(SHA, PAGE, DEFAULT_TONE, undefined, 180)).not.toBe(prepared());
	});

	it('stays where what was changed is not in its picture', () => {
		const beside: Partial<Page>[] = [{ number: 3 }, { own: true }, { marks: [words] }, { id: 'q' }];
		expect(new Set([{}, ...beside].map((change) => prepared(change))).size).toBe(1);
	});

	it('of what is made changes with the tone, of what is read does not', () => {
		const ink: Tone = { ...DEFAULT_TONE, name: 'black-and-white' };
		expect(prepared({}, ink)).not.toBe(prepared());
		// Brightness plays no part where only ink is held.
		expect(prepared({}, { ...ink, brightness: 1 })).toBe(prepared({}, ink));
		expect(prepared({}, { ...DEFAULT_TONE, brightness: 1 })).not.toBe(prepared());
		expect(read({ tone: ink })).toBe(read());
		const asked = readingKey(SHA, PAGE, undefined, null, [{ label: '1', parts: [{ label: 'a' }] }]);
		expect(asked).not.toBe(read());
	});
});
