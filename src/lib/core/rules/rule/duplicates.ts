import { likeness, SAME_PAGE } from '../../order/fingerprint';
import type { CheckInput, Finding } from '../finding';
import { levelOf } from '../ruleSheet';

/** No page is on the strip twice. The better readable one is offered to be kept. */
export function duplicates({ sheet, packet, evidence }: CheckInput): Finding {
	for (let i = 0; i < packet.strip.length; i++) {
		const a = evidence[packet.strip[i]!]?.prepared;
		if (!a || a.fingerprint === '') continue;
		for (let j = i + 1; j < packet.strip.length; j++) {
			const b = evidence[packet.strip[j]!]?.prepared;
			if (!b || likeness(a.fingerprint, b.fingerprint) < SAME_PAGE) continue;
			const keepFirst = a.legibility.score >= b.legibility.score;
			const worse = keepFirst ? j : i;
			const better = keepFirst ? i : j;
			return {
				rule: 'duplicates',
				level: levelOf(sheet, 'duplicates'),
				message:
					`Pages ${i + 1} and ${j + 1} carry the same writing. Page ${better + 1} reads ` +
					(a.legibility.score === b.legibility.score ? 'as well.' : 'better.'),
				pages: [i + 1, j + 1],
				fix: {
					label: `Keep page ${better + 1}, set page ${worse + 1} aside`,
					task: 'order',
					page: packet.strip[worse]!,
					change: {
						kind: 'place',
						page: packet.strip[worse]!,
						to: { on: 'tray', index: packet.tray.length, reason: 'duplicate' }
					}
				}
			};
		}
	}
	return { rule: 'duplicates', level: 'clear', message: 'No page is there twice', pages: [] };
}
