/** What the pixels of a page tell: which colour, how grey, or only whether there is ink. */
export type Holds = 'colours' | 'greys' | 'ink';

/** What a tone is. */
export interface ToneKind {
	/** What it is called in running text. */
	readonly words: string;
	readonly holds: Holds;
}

/** The tones a page may be given, each described once, from the one that keeps most to the one that keeps least. */
export const TONE_KINDS = {
	colour: { words: 'colour', holds: 'colours' },
	greyscale: { words: 'greyscale', holds: 'greys' },
	'black-and-white': { words: 'black and white', holds: 'ink' }
} as const satisfies Readonly<Record<string, ToneKind>>;

export type ToneName = keyof typeof TONE_KINDS;
export const TONES = Object.keys(TONE_KINDS) as readonly ToneName[];

/** What the pixels of a page in a tone tell. */
export function heldBy(name: ToneName): Holds {
	return TONE_KINDS[name].holds;
}

/** How a page is finished. */
export interface Tone {
	readonly name: ToneName;
	/** Whether shadows and colour casts are taken out. */
	readonly evenLight: boolean;
	/** -2 (thin) to 2 (heavy): how readily grey counts as ink. */
	readonly inkWeight: number;
	/** -2 (darker) to 2 (brighter), 0 when absent; not in black and white. */
	readonly brightness?: number;
	/** -2 (softer) to 2 (harder), 0 when absent; not where only ink is held. */
	readonly contrast?: number;
}

export const DEFAULT_TONE: Tone = { name: 'greyscale', evenLight: true, inkWeight: 0 };
