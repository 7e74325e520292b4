import { attemptDelivery } from '../../delivery/deliver';
import { packetChanged } from '../../events/packetEvents';
import type { House } from '../../house';
import { deliveryById, isOpen } from '../../store/deliveries';
import { PRIORITY } from '../kinds';

/** Tries once to bring a delivery to its end; the same for every way. */
export const deliver = (house: House) => ({
	run: ({ deliveryId }: { deliveryId: string }) => attempt(house, deliveryId),
	failed: ({ deliveryId }: { deliveryId: string }) => tryLater(house, deliveryId)
});

async function attempt(house: House, deliveryId: string): Promise<void> {
	const again = await attemptDelivery(house, deliveryId);
	const delivery = await deliveryById(house.db, deliveryId);
	if (!delivery) return;
	if (again !== null) {
		const later = { afterSeconds: again, priority: PRIORITY.waited };
		await house.queue.add(`deliver-${delivery.target}`, { deliveryId }, later);
	}
	packetChanged(delivery.packetId);
}

/** Seconds after which a delivery is tried again whose job failed, which has nothing to do with the other side. */
const AFTER_FAILURE = 60;

async function tryLater({ db, queue }: House, deliveryId: string): Promise<void> {
	const delivery = await deliveryById(db, deliveryId);
	if (!delivery || !(await isOpen(db, deliveryId))) return;
	await queue.add(`deliver-${delivery.target}`, { deliveryId }, { afterSeconds: AFTER_FAILURE });
}
