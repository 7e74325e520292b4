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

/** Never used for the demo, nor for anything that is fitted: only for measuring. */
const SET_APART: Record<string, number> = {
	'shadows-into-light': 1,
	'reenie-beanie': 1.3,
	'coming-soon': 0.85
};

const loaded = new Map<Record<string, number>, Hand[]>();

/** The open-licence hands that the generator writes in; registers their fonts on first use. */
export function hands(): readonly Hand[] {
	return load(PACKAGES);
}

/** Hands that nothing was fitted to. */
export function handsSetApart(): readonly Hand[] {
	return load(SET_APART);
}

function load(packages: Record<string, number>): readonly Hand[] {
	const known = loaded.get(packages);
	if (known) return known;
	const require = createRequire(import.meta.url);
	const all = Object.entries(packages).map(([name, scale]) => {
		const folder = join(dirname(require.resolve(`@fontsource/${name}/package.json`)), 'files');
		const file = readdirSync(folder).find((f) => f === `${name}-latin-400-normal.woff2`);
		const family = `hand-${name}`;
		if (!file || !GlobalFonts.registerFromPath(join(folder, file), family)) {
			throw new Error(`The handwriting font ${name} could not be loaded.`);
		}
		return { family, scale };
	});
	loaded.set(packages, all);
	return all;
}
