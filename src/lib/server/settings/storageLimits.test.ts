import { describe, expect, it } from 'vitest';
import { formatBytes } from '../../core/rules/formatBytes';
import { storageLimits, whyFull } from './storageLimits';

describe('storage limits', () => {
	it('are told in sizes that can be read', () => {
		expect([812, 210e3, 4.6e6, 150e6, 2e9, 71.784e9].map(formatBytes)).toEqual([
			'812 bytes',
			'210 KB',
			'4.6 MB',
			'150 MB',
			'2000 MB',
			'72 GB'
		]);
	});

	it('are those that are set, in megabytes, and the usual ones else', () => {
		expect(storageLimits({ packetMegabytes: '150', personMegabytes: null })).toEqual({
			reserveBytes: 500e6,
			packetBytes: 150e6,
			personBytes: 20e9
		});
		expect(storageLimits({ reserveMegabytes: '0' }).reserveBytes).toBe(0);
		for (const packetMegabytes of ['plenty', '-3', '19', 'Infinity'])
			expect(() => storageLimits({ packetMegabytes })).toThrow(/What a packet takes.*at least 20/);
	});

	it('say why something has no room, for one file as for many of a ZIP', () => {
		const limits = storageLimits({ packetMegabytes: '30', personMegabytes: '50' });
		const held = { packetBytes: 10e6, packetFiles: 5, personBytes: 10e6 };
		expect(whyFull(limits, held, { files: 1, bytes: 20e6 })).toBeNull();
		expect(whyFull(limits, held, { files: 1, bytes: 20e6 + 1 })).toBe(
			'A packet takes at most 30 MB of originals in.'
		);
		expect(whyFull(limits, held, { files: 996, bytes: 1 })).toBe('A packet takes at most 1000 files in.');
		expect(whyFull(limits, { ...held, personBytes: 45e6 }, { files: 1, bytes: 6e6 })).toBe(
			'One person can bring in at most 50 MB.'
		);
	});
});
