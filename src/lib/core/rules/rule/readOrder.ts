import { acceptOrder } from '../../order/acceptOrder';
import { cluesOfPages } from '../../order/pageClues';
import { proposeOrder } from '../../order/proposeOrder';
import type { Fix, PagesInput } from '../finding';

/**
 * Puts the pages in the order that was read off them.
 *
 * @param otherwise where that is their order already
 */
export function readOrderFix({ sheet, packet, evidence }: PagesInput, otherwise: Fix): Fix {
	const clues = cluesOfPages(packet.strip, packet, evidence);
	const isRead = clues.length === packet.strip.length && clues.every((c) => c.reading);
	const change = isRead ? acceptOrder(packet, proposeOrder(clues, sheet.questions)) : null;
	return change ? { label: 'Put the pages in the order that was read', task: 'order', change } : otherwise;
}
