import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { discover } from '../access/provider';
import type { Targets } from '../services/services';
import type { Settings } from './settings';

/** What happened when a way to hand in was tried. */
export interface Tried {
	readonly worked: boolean;
	readonly says: string;
}

/** What can be tried. */
export type Way = keyof Targets | 'provider';

/** What it is tried with. */
interface TryWith {
	readonly targets: Targets;
	readonly settings: Settings;
	/** Where a letter goes. */
	readonly to: string | null;
}

/** Tries what is set up, without handing anything in and without letting anybody in. */
export async function tryOut(what: Way, given: TryWith): Promise<Tried> {
	try {
		return { worked: true, says: await WAYS[what](given) };
	} catch (error) {
		return { worked: false, says: (error as Error).message };
	}
}

export const WAYS: Readonly<Record<Way, (given: TryWith) => Promise<string>>> = {
	async portal({ targets: { portal } }) {
		if (!portal) throw new Error('No portal is set.');
		const { length } = await portal.assignments();
		return `The portal answers, with ${length} assignments.`;
	},
	async mail({ targets: { mail }, to }) {
		if (!mail) throw new Error('No mail server is set.');
		if (!to) throw new Error('You have no mail address of your own that a letter could go to.');
		await mail.write(to, 'A letter to try Membrana’s mail', 'Mail works: this letter was sent to try it.\n');
		return `A letter to ${to} was taken by the mail server. See whether it arrives.`;
	},
	async folder({ targets: { folder } }) {
		if (!folder) throw new Error('No folder is set.');
		const path = join(folder.root, `.tried-${randomUUID()}`);
		await mkdir(folder.root, { recursive: true });
		await writeFile(path, 'Membrana');
		const back = await readFile(path, 'utf8');
		await rm(path);
		if (back !== 'Membrana') throw new Error('What was written there came back otherwise.');
		return 'A file was written there, read, and taken away again.';
	},
	async provider({ settings }) {
		const { issuer } = await discover(settings);
		return `The identity provider ${issuer} answers.`;
	}
};
