import { formatBytes } from '../../core/rules/formatBytes';
import type { Settings } from './settings';

/** What may be brought in. */
export interface StorageLimits {
	/** Bytes on the disk that are left for the database. */
	readonly reserveBytes: number;
	/** Bytes of originals in one packet. */
	readonly packetBytes: number;
	/** Bytes that one person brought in, in all packets. */
	readonly personBytes: number;
}
type LimitSettings = Pick<Settings, 'reserveMegabytes' | 'packetMegabytes' | 'personMegabytes'>;

/** Megabytes where nothing is set. */
const USUAL_MEGABYTES: Readonly<Record<keyof LimitSettings, number>> = {
	reserveMegabytes: 500,
	packetMegabytes: 2_000,
	personMegabytes: 20_000
};

const WORDS: Readonly<Record<keyof LimitSettings, string>> = {
	reserveMegabytes: 'What is left free on the disk',
	packetMegabytes: 'What a packet takes',
	personMegabytes: 'What one person brings in'
};

/** A packet has to take at least one photograph in. */
const LEAST_MEGABYTES = 20;

/** @throws RangeError with a sentence where a limit is none */
export function storageLimits(settings: Partial<LimitSettings>): StorageLimits {
	const bytes = (name: keyof LimitSettings, least: number) => {
		const megabytes = Number(settings[name] ?? USUAL_MEGABYTES[name]);
		if (Number.isFinite(megabytes) && megabytes >= least) return megabytes * 1e6;
		throw new RangeError(
			`${WORDS[name]}: “${settings[name]}” is no number of megabytes${least > 0 ? ` of at least ${least}` : ''}.`
		);
	};
	return {
		reserveBytes: bytes('reserveMegabytes', 0),
		packetBytes: bytes('packetMegabytes', LEAST_MEGABYTES),
		personBytes: bytes('personMegabytes', LEAST_MEGABYTES)
	};
}

/** Files that one packet takes in. */
const PACKET_FILES = 1_000;

/** What a packet and the person who brings something in hold already. */
interface Held {
	readonly packetBytes: number;
	readonly packetFiles: number;
	readonly personBytes: number;
}

/** Why there is no room for more, as a sentence; null where there is. */
export function whyFull(
	{ packetBytes, personBytes }: StorageLimits,
	held: Held,
	more: { readonly files: number; readonly bytes: number }
): string | null {
	if (held.packetBytes + more.bytes > packetBytes)
		return `A packet takes at most ${formatBytes(packetBytes)} of originals in.`;
	if (held.packetFiles + more.files > PACKET_FILES) return `A packet takes at most ${PACKET_FILES} files in.`;
	if (held.personBytes + more.bytes > personBytes)
		return `One person can bring in at most ${formatBytes(personBytes)}.`;
	return null;
}
