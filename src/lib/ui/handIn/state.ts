import { TARGET_KINDS } from '$lib/core/delivery/targets';
import type { DeliveryRow } from '$lib/server/store/deliveries';

/** What is known of a delivery, in a few words. */
export function stateOf(delivery: DeliveryRow): string {
	switch (delivery.state) {
		case 'sending':
			return delivery.sentAt ? 'sent, not confirmed yet' : 'still on its way';
		case 'unsure':
			return 'probably sent';
		case 'sent':
			return 'passed on by mail';
		case 'received':
			return delivery.receipt?.late ? 'received, late' : 'received';
		case 'refused':
			return 'not taken';
		case 'recalling':
			return 'being taken back';
		case 'recalled':
			return 'recalled';
		case 'replaced':
			return 'replaced by a later version';
	}
}

/** Where a delivery goes, in a few words. */
export function whereTo({ target, destination }: Pick<DeliveryRow, 'target' | 'destination'>): string {
	return TARGET_KINDS[target].where(destination);
}

/** "25 Nov 2026, 14:03:09", in the reader's own zone. */
export function moment(iso: string): string {
	return new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'medium' });
}
