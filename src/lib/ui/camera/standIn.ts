import type { Camera } from './camera';

/** The demo's pages before the stand-in camera; the fifth picture is a blurred one and must be refused. */
export async function openStandIn(): Promise<Camera> {
	const names = (await (await fetch('/api/demo-pictures')).json()) as string[];
	const scenes = names
		.map((name) => ({
			picture: `/api/demo-pictures/${encodeURIComponent(name)}`,
			...(name.includes('(2)') && { mishap: 'blurred' as const })
		}))
		// The blurred one comes third.
		.sort((a, b) => rank(names, a.picture) - rank(names, b.picture));
	const { openStandInCamera } = await import('../../../../standins/camera/standInCamera');
	return openStandInCamera(scenes);
}

function rank(names: readonly string[], picture: string): number {
	const i = names.findIndex((name) => picture.endsWith(encodeURIComponent(name)));
	return names[i]!.includes('(2)') ? 1.5 : i;
}
