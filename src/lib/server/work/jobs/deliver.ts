import { attemptDelivery } from '../../delivery/deliver';
import { packetChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { deliveryById, isOpen } from '../../store/deliveries';
import { PRIORITY } from '../kinds';

/** Tries once to bring a delivery to its end; the same for every way. */
export const deliver = (services: Services) => ({
	run: ({ deliveryId }: { deliveryId: string }) => attempt(services, deliveryId),
	failed: ({ deliveryId }: { deliveryId: string }) => tryLater(services, deliveryId)
});

async function attempt(services: Services, deliveryId: string): Promise<void> {
	const again = await attemptDelivery(services, deliveryId);
	const delivery = await deliveryById(services.db, deliveryId);
	if (!delivery) return;
	if (again !== null) {
		const later = { afterSeconds: again, priority: PRIORITY.waited };
		await services.queue.add(`deliver-${delivery.target}`, { deliveryId }, later);
	}
	packetChanged(delivery.packetId);
}

/** Seconds after which a delivery is tried again whose job failed, which has nothing to do with the other side. */
const AFTER_FAILURE = 60;

async function tryLater({ db, queue }: Services, deliveryId: string): Promise<void> {
	const delivery = await deliveryById(db, deliveryId);
	if (!delivery || !(await isOpen(db, deliveryId))) return;
	await queue.add(`deliver-${delivery.target}`, { deliveryId }, { afterSeconds: AFTER_FAILURE });
}
