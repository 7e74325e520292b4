import { CORES } from './cores';

/** Every kind of job with its data. */
export interface Jobs {
	'take-in': { sourceId: string };
	'prepare-page': { packetId: string; pageId: string; key: string };
	'read-picture': { packetId: string; sourceId: string; index: number };
	'look-page': { packetId: string; pageId: string; key: string };
	'read-page': { packetId: string; pageId: string; key: string };
	'match-names': { packetId: string };
	'check-packet': { packetId: string };
	'cut-stack': { packetId: string };
	'weigh-page': { packetId: string; pageId: string; key: string };
	'make-file': { fileId: string };
	'make-bundle': { bundleId: string };
	'make-bag': { bundleId: string };
	/** One queue for each way to hand in: none waits for another. */
	'deliver-portal': { deliveryId: string };
	'deliver-mail': { deliveryId: string };
	'deliver-folder': { deliveryId: string };
	'send-invitation': { personId: string; madeBy: string | null; origin: string };
	'send-letter': { personId: string; subject: string; text: string };
}
export type JobName = keyof Jobs;

export interface Handler<Name extends JobName> {
	/** Does the job. It may be begun again from the start at any time. */
	run(data: Jobs[Name]): Promise<void>;
	/** What becomes of what the job was for when it has failed for good. */
	failed(data: Jobs[Name], problem: string): Promise<void>;
}
export type Handlers = { [Name in JobName]: Handler<Name> };

export interface Kind {
	/** How many run at once. Preparing and reading keep all cores busy; the rest is quick. */
	readonly slots: number;
	/** Writes pictures or files: waits while the disk is nearly full. */
	readonly writes: boolean;
	/**
	 * Milliseconds after which a job counts as slow: it takes no slot from others, and no more of its packet are begun.
	 * Far above what ordinary ones take.
	 */
	readonly slow: number;
}

/** The kinds, each described once. */
export const KINDS: Readonly<Record<JobName, Kind>> = {
	'take-in': { slots: 2, writes: true, slow: 5_000 },
	'prepare-page': { slots: CORES, writes: true, slow: 5_000 },
	'read-picture': { slots: CORES, writes: false, slow: 60_000 },
	'look-page': { slots: CORES, writes: false, slow: 60_000 },
	'read-page': { slots: CORES, writes: false, slow: 60_000 },
	'match-names': { slots: 1, writes: false, slow: 10_000 },
	'check-packet': { slots: 1, writes: false, slow: 10_000 },
	'cut-stack': { slots: 1, writes: false, slow: 30_000 },
	'weigh-page': { slots: 1, writes: false, slow: 20_000 },
	'make-file': { slots: 1, writes: true, slow: 20_000 },
	'make-bundle': { slots: 1, writes: true, slow: 5_000 },
	'make-bag': { slots: 1, writes: true, slow: 5_000 },
	'deliver-portal': { slots: 2, writes: false, slow: 5_000 },
	'deliver-mail': { slots: 1, writes: false, slow: 5_000 },
	'deliver-folder': { slots: 1, writes: false, slow: 5_000 },
	'send-invitation': { slots: 1, writes: false, slow: 30_000 },
	'send-letter': { slots: 1, writes: false, slow: 30_000 }
};
export const NAMES = Object.keys(KINDS) as JobName[];

/** Who comes first. What a person looks at goes before what somebody waits for, and that before the rest. */
export const PRIORITY = { looked: 20_000, waited: 10_000, later: 0, background: -10_000 } as const;
