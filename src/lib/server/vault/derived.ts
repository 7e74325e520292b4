import { access } from 'node:fs/promises';
import { join } from 'node:path';
import { heldBy, type Holds, type ToneName } from '../../core/tone/tone';

/** Where the pictures made of a page lie. All of them can be made again from the source. */
export interface PreparedPaths {
	readonly thumb: string;
	/** What a browser shows: JPEG, or PNG in black and white. */
	readonly view: string;
	/** The image as it goes into the file: JPEG or a Group 4 strip. */
	readonly image: string;
	/** The page as photographed, flattened; made when somebody asks for it. */
	readonly flat: string;
}

const EXTENSIONS: Readonly<Record<Holds, { readonly view: 'jpg' | 'png'; readonly image: 'jpg' | 'g4' }>> = {
	colours: { view: 'jpg', image: 'jpg' },
	greys: { view: 'jpg', image: 'jpg' },
	ink: { view: 'png', image: 'g4' }
};

export function preparedPaths(folder: string, key: string, tone: ToneName): PreparedPaths {
	const base = join(folder, key.slice(0, 2), key);
	const { view, image } = EXTENSIONS[heldBy(tone)];
	return {
		thumb: `${base}.thumb.jpg`,
		flat: `${base}.flat.jpg`,
		view: `${base}.${view}`,
		image: `${base}.${image}`
	};
}

/** A page (from 0) of a made file, drawn for the screen. */
export function filePagePath(folder: string, sha256: string, index: number): string {
	return join(folder, 'file', `${sha256}-${index}.jpg`);
}

/** The picture a page is made from, small enough for a screen. */
export function previewPath(folder: string, sha256: string, index: number): string {
	return join(folder, 'preview', `${sha256}-${index}.jpg`);
}

/** The folder in which the files of a bundle lie. */
export function bundlePath(folder: string, bundleId: string): string {
	return join(folder, 'bundles', bundleId);
}

/** Whether a page that was prepared has its pictures. */
export function hasPictures(folder: string, key: string, tone: ToneName): Promise<boolean> {
	const { thumb, view, image } = preparedPaths(folder, key, tone);
	return areThere([thumb, view, image]);
}

/** Whether all of some files can be read. */
export async function areThere(paths: readonly string[]): Promise<boolean> {
	const found = await Promise.all(
		paths.map((path) =>
			access(path).then(
				() => true,
				() => false
			)
		)
	);
	return found.every(Boolean);
}
