import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { discover } from '../access/provider';
import type { Services, Targets } from '../services/services';
import { mostHeld } from '../store/sources';
import { formatBytes } from '../../core/rules/formatBytes';
import type { Settings } from './settings';

/** What happened when a way to hand in was tried. */
export interface Tried {
	readonly worked: boolean;
	readonly says: string;
}

/** What can be tried. */
export type Way = keyof Targets | 'provider' | 'storage';

/** What it is tried with. */
interface TryWith extends Pick<Services, 'db' | 'disk' | 'limits' | 'targets'> {
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
	},
	async storage({ db, disk, limits }) {
		const { packetBytes, personBytes } = await mostHeld(db);
		const free = disk.freeBytes - limits.reserveBytes;
		if (free < limits.packetBytes) {
			const left = free > 0 ? `only ${formatBytes(free)} are left` : 'nothing is left';
			throw new Error(`Beyond the reserve, ${left} on the disk: less than one packet may take.`);
		}
		const above = packetBytes > limits.packetBytes || personBytes > limits.personBytes;
		const most = `The largest packet takes ${formatBytes(packetBytes)}, and nobody brought in more than ${formatBytes(personBytes)}.`;
		const stays = above ? ' What is above these limits stays; nothing can be added to it.' : '';
		return `${formatBytes(free)} are free beyond the reserve. ${most}${stays}`;
	}
};
