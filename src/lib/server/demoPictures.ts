import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';

/** The worksheet that the demo's photographs answer. */
export const PICTURES_OF = 'Worksheet 3: Gauging the Lode';

/** The photographs that a visitor of the demo can bring in without having any; none outside the demo. */
function folder(): string | null {
	const root = process.env.MEMBRANA_DEMO_PICTURES;
	return root ? join(root, 'gauging-the-lode') : null;
}

export async function demoPictures(): Promise<string[]> {
	const from = folder();
	return from ? (await readdir(from)).filter((name) => name.endsWith('.jpg')).sort() : [];
}

const STACK = 'the class.pdf';

/** A class's pile to try. */
export interface DemoStack {
	readonly name: string;
	/** False as long as it is being drawn, after the demo's first start. */
	readonly isThere: boolean;
}

/** @returns null outside the demo */
export async function demoStack(): Promise<DemoStack | null> {
	const from = folder();
	return from ? { name: STACK, isThere: (await readdir(from)).includes(STACK) } : null;
}

/** Only for a name that demoPictures or demoStack gave. */
export function readDemoPicture(name: string): Promise<Buffer<ArrayBuffer>> {
	return readFile(join(folder()!, name));
}
