import { expect, it, vi } from 'vitest';
import { EMPTY_PACKET } from '../../core/packet/packet';
import { packetChanged } from '../events/packetEvents';
import type { Database } from '../store/database';
import { PageAsker } from './askForPages';
import type { Queue } from './queue';

/** Two packets with one and the same picture, of which nothing is known yet. */
const packet = (id: string) => ({
	id,
	assignmentId: 'a',
	state: { ...EMPTY_PACKET, strip: ['page'] }
});
vi.mock('../store/packets', () => ({ packetById: (_: Database, id: string) => Promise.resolve(packet(id)) }));
vi.mock('../store/assignments', () => ({
	assignmentById: () => Promise.resolve({ ruleSheet: { title: 'W', questions: [] }, courseId: 'c' })
}));
vi.mock('../store/troubles', () => ({ troublesOf: () => Promise.resolve([]) }));
vi.mock('../packetView', () => ({
	namesOn: () => Promise.resolve(new Map()),
	packetPages: () =>
		Promise.resolve({
			pages: { page: { page: { id: 'page' }, key: 'same', readingKey: 'r', picture: null, prepared: null } }
		})
}));
vi.mock('../events/packetEvents', () => ({ packetChanged: vi.fn() }));

it('who wants what was asked for another packet hears when it is done, and it is asked for once', async () => {
	const asked: string[] = [];
	const queue = {
		addAll: (_: string, jobs: { data: { packetId: string } }[]) => {
			asked.push(...jobs.map(({ data }) => data.packetId));
			return Promise.resolve();
		}
	} as unknown as Queue;
	const pages = new PageAsker({ news: null } as unknown as Database, queue, true);
	await pages.ensure('one');
	await pages.ensure('two');
	expect(asked).toEqual(['one']);
	expect(packetChanged).not.toHaveBeenCalled();

	pages.forget('prepare-page', 'same');
	expect(packetChanged).toHaveBeenCalledExactlyOnceWith('two');
	await pages.ensure('two');
	// It looks again at what is lacking, now on its own account, and asks once.
	expect(asked).toEqual(['one', 'two']);
});
