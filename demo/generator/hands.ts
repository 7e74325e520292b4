import { createRequire } from 'node:module';
import { readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { GlobalFonts } from '@napi-rs/canvas';

/** A handwriting font and how large it must be set to look as large as the others. */
export interface Hand {
	readonly family: string;
	readonly scale: number;
}

const PACKAGES: Record<string, number> = {
	caveat: 1.15,
	kalam: 0.9,
	'patrick-hand': 1,
	'gochi-hand': 0.95,
	handlee: 0.95,
	'indie-flower': 0.95,
	'nanum-pen-script': 1.25
};

let loaded: Hand[] | null = null;

/** The open-licence hands that the generator writes in; registers their fonts on first use. */
export function hands(): readonly Hand[] {
	if (loaded) return loaded;
	const require = createRequire(import.meta.url);
	loaded = Object.entries(PACKAGES).map(([name, scale]) => {
		const folder = join(dirname(require.resolve(`@fontsource/${name}/package.json`)), 'files');
		const file = readdirSync(folder).find((f) => f === `${name}-latin-400-normal.woff2`);
		const family = `hand-${name}`;
		if (!file || !GlobalFonts.registerFromPath(join(folder, file), family)) {
			throw new Error(`The handwriting font ${name} could not be loaded.`);
		}
		return { family, scale };
	});
	return loaded;
}
