import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { News } from '../store/database';
import { classStream, eventStream } from './eventStream';
import {
	connectEvents,
	onAnyPacketChange,
	onPacketChange,
	onSettingsChanged,
	packetChanged,
	packetsChanged,
	rightsChanged,
	tellSettingsChanged
} from './packetEvents';
import { presentAt } from './presence';

/** What connects processes: says what it was told, and lets others speak. */
function wire() {
	const told: string[] = [];
	let callback: (message: string | null) => void = () => {};
	const news: News = {
		tell: (message) => void told.push(message),
		hear: (listener) => void (callback = listener)
	};
	return { news, told, say: (message: string | null) => callback(message) };
}

/** What a stream has said so far, without its breath of life. */
function listenTo(response: Response) {
	const said: string[] = [];
	const reader = response.body!.getReader();
	let isOver = false;
	void (async () => {
		for (;;) {
			const { done, value } = await reader.read();
			if (done) break;
			said.push(...new TextDecoder().decode(value).split('\n\n').filter(Boolean));
		}
		isOver = true;
	})();
	return {
		changes: () => said.filter((s) => s.startsWith('event: changed')).length,
		said,
		isOver: () => isOver,
		leave: () => reader.cancel()
	};
}
const may = async () => true;

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
	connectEvents(null);
	onSettingsChanged(() => {});
	vi.useRealTimers();
});
const pass = (milliseconds: number) => vi.advanceTimersByTimeAsync(milliseconds);

describe('news of packets', () => {
	it('reach who has that packet open, until they leave', () => {
		const heard: string[] = [];
		const off = onPacketChange('a', () => heard.push('a'));
		const offAny = onAnyPacketChange((id) => heard.push(`any ${id}`));
		packetsChanged(['a', 'b']);
		expect(heard).toEqual(['a', 'any a', 'any b']);
		off();
		offAny();
		packetChanged('a');
		expect(heard).toHaveLength(3);
	});

	it('go through what connects the processes, and come from there', () => {
		const { news, told, say } = wire();
		connectEvents(news);
		const heard: string[] = [];
		const off = onPacketChange('a', () => heard.push('a'));
		onSettingsChanged(() => heard.push('settings'));
		packetChanged('a');
		rightsChanged();
		tellSettingsChanged();
		expect([told, heard]).toEqual([['packet a', 'rights', 'settings'], []]);
		say('packet a');
		say('packet b');
		say('settings');
		say('something new');
		expect(heard).toEqual(['a', 'settings']);
		off();
	});

	it('are taken to have come for everything where some may have been missed', () => {
		const { news, say } = wire();
		connectEvents(news);
		const heard: unknown[] = [];
		const offs = [
			onPacketChange('a', () => heard.push('a')),
			onPacketChange('b', () => heard.push('b')),
			onAnyPacketChange((id) => heard.push(id))
		];
		onSettingsChanged(() => heard.push('settings'));
		say(null);
		expect(heard).toEqual(['a', 'b', null, 'settings']);
		for (const off of offs) off();
	});
});

describe('a stream about a packet', () => {
	it('says at once that something changed, and what follows closely once', async () => {
		const stream = listenTo(eventStream('p', 'computer', may));
		await pass(300);
		const before = stream.changes();
		packetChanged('p');
		await pass(1);
		expect(stream.changes()).toBe(before + 1);
		for (let i = 0; i < 20; i++) packetChanged('p');
		await pass(100);
		expect(stream.changes()).toBe(before + 1);
		await pass(200);
		expect(stream.changes()).toBe(before + 2);
		packetChanged('another');
		await pass(1000);
		expect(stream.changes()).toBe(before + 2);
		await stream.leave();
	});

	it('shows that somebody is there, as long as they are', async () => {
		const computer = listenTo(eventStream('p', 'computer', may));
		const phone = listenTo(eventStream('p', 'phone', may));
		expect(presentAt('p')).toEqual({ computer: 1, phone: 1 });
		await pass(1000);
		const before = computer.changes();
		await phone.leave();
		await pass(1000);
		expect(presentAt('p')).toEqual({ computer: 1, phone: 0 });
		expect(computer.changes()).toBe(before + 1);
		await computer.leave();
		expect(presentAt('p')).toEqual({ computer: 0, phone: 0 });
	});

	it('ends as soon as who listens may no more, and where nobody can be asked', async () => {
		for (const stillMay of [async () => false, async () => Promise.reject(new Error('away'))]) {
			const stream = listenTo(eventStream('p', 'computer', stillMay));
			await pass(10);
			expect(stream.isOver()).toBe(false);
			rightsChanged();
			await pass(10);
			expect(stream.isOver()).toBe(true);
			expect(presentAt('p')).toEqual({ computer: 0, phone: 0 });
		}
	});

	it('keeps the line open, and finds out a right that ran out by itself', async () => {
		let mayYet = true;
		const stream = listenTo(eventStream('p', 'computer', async () => mayYet));
		await pass(15_100);
		expect(stream.said).toContain(': still here');
		expect(stream.isOver()).toBe(false);
		mayYet = false;
		await pass(15_000);
		expect(stream.isOver()).toBe(true);
	});
});

describe('a stream about a class', () => {
	it('says what changes in its own packets, asking once for each, and takes its time', async () => {
		const asked: string[] = [];
		const belongs = async (id: string) => {
			asked.push(id);
			if (id === 'broken') throw new Error('away');
			return id.startsWith('own');
		};
		const stream = listenTo(classStream(belongs, may));
		for (const id of ['own 1', 'other', 'broken', 'own 1']) packetChanged(id);
		await pass(10);
		expect([asked, stream.changes()]).toEqual([['own 1', 'other', 'broken'], 1]);
		packetChanged('own 2');
		await pass(1_500);
		expect(stream.changes()).toBe(1);
		await pass(600);
		expect(stream.changes()).toBe(2);
		packetChanged('other');
		await pass(5_000);
		expect(stream.changes()).toBe(2);
		await stream.leave();
	});

	it('looks again where news may have been missed', async () => {
		const { news, say } = wire();
		connectEvents(news);
		const stream = listenTo(classStream(async () => false, may));
		say(null);
		await pass(10);
		expect(stream.changes()).toBe(1);
		await stream.leave();
	});
});
