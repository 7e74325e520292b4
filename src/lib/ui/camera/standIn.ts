import type { Camera } from './camera';

/** The demo's pages before the stand-in camera; the blurred one comes third and must be refused. */
export async function openStandIn(): Promise<Camera> {
	const names = (await (await fetch('/api/demo-pictures')).json()) as string[];
	const isBlurred = (name: string) => name.includes('(2)');
	const good = names.filter((name) => !isBlurred(name));
	const scenes = [...good.slice(0, 2), ...names.filter(isBlurred), ...good.slice(2)].map((name) => ({
		picture: `/api/demo-pictures/${encodeURIComponent(name)}`,
		...(isBlurred(name) && { mishap: 'blurred' as const })
	}));
	const { openStandInCamera } = await import('../../../../standins/camera/standInCamera');
	return openStandInCamera(scenes);
}
