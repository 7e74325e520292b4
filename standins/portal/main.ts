import { startPortal } from './portal';

const portal = await startPortal({
	folder: process.env.PORTAL_DATA ?? 'data-portal',
	port: Number(process.env.PORTAL_PORT ?? 4180),
	maxBytes: Number(process.env.PORTAL_MAX_BYTES ?? 20_000_000)
});
console.log(`The stand-in grading portal listens on ${portal.address}`);
