import type { TextLine } from '../../reading/pageReading';
import { formatBytes } from '../formatBytes';
import { namePages, type CheckInput, type Finding } from '../finding';
import { predictedBytes } from '../predictedBytes';
import { levelOf } from '../ruleSheet';

/** The file stays under the limit. Counted from the encoded pages themselves. */
export function fileSize({ sheet, packet, evidence }: CheckInput): Finding {
	const limit = sheet.file?.maxBytes;
	const waiting: number[] = [];
	const sizes: { position: number; page: string; bytes: number; lines: readonly TextLine[] }[] = [];
	packet.strip.forEach((page, i) => {
		const size = evidence[page]?.bytes ?? null;
		if (size === null) waiting.push(i + 1);
		else {
			sizes.push({
				position: i + 1,
				page,
				bytes: size,
				lines: evidence[page]?.reading?.lines ?? []
			});
		}
	});
	const bytes = predictedBytes(sizes);
	const of = limit ? ` of ${formatBytes(limit)}` : '';
	if (limit && bytes > limit) {
		const heaviest = [...sizes].sort((a, b) => b.bytes - a.bytes)[0]!;
		return {
			rule: 'fileSize',
			level: levelOf(sheet, 'fileSize'),
			message: `About ${formatBytes(bytes)}${of}. Page ${heaviest.position} alone takes ${formatBytes(heaviest.bytes)}; black and white is smallest.`,
			pages: [heaviest.position],
			fix: { label: 'Change the tone', task: 'tone', page: heaviest.page }
		};
	}
	if (waiting.length > 0) {
		return {
			rule: 'fileSize',
			level: 'look',
			message: `At least ${formatBytes(bytes)}${of}; ${namePages(waiting)} still being prepared.`,
			pages: waiting
		};
	}
	return { rule: 'fileSize', level: 'clear', message: `About ${formatBytes(bytes)}${of}`, pages: [] };
}
