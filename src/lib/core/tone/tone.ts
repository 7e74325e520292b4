/** The tones a page may be given. */
export const TONES = ['colour', 'greyscale', 'black-and-white'] as const;
export type ToneName = (typeof TONES)[number];

/** How a page is finished. */
export interface Tone {
	readonly name: ToneName;
	/** Whether shadows and colour casts are taken out. */
	readonly evenLight: boolean;
	/** -2 (thin) to 2 (heavy): how readily grey counts as ink. */
	readonly inkWeight: number;
	/** -2 (darker) to 2 (brighter), 0 when absent; not in black and white. */
	readonly brightness?: number;
	/** -2 (softer) to 2 (harder), 0 when absent; not in black and white. */
	readonly contrast?: number;
}

export const DEFAULT_TONE: Tone = { name: 'greyscale', evenLight: true, inkWeight: 0 };
