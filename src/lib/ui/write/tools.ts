import type { Mark, MarkColour } from '$lib/core/marks/mark';

/** What a person does on the page: move about and choose, or add something. */
export const TOOLS = ['look', 'pen', 'marker', 'words', 'strip'] as const;
export type Tool = (typeof TOOLS)[number];

export const TOOL_WORDS: Readonly<Record<Tool, string>> = {
	look: 'Look and choose',
	pen: 'Pen',
	marker: 'Broad marker',
	words: 'Typed words',
	strip: 'Strip of paper'
};

export const HINTS: Readonly<Record<Tool, string>> = {
	look: 'Press on something that was added to choose it; drag it to move it. Drag the page to move about.',
	pen: 'Write with a pen, a finger or the mouse.',
	marker: 'Draw over what matters; the writing stays as dark as it is.',
	words: 'Press where the words begin, then type them here.',
	strip:
		'Draw a box over what nobody is to see. It is gone from everything that is made of the page: its text, the file, pictures, bundles. Your own photograph stays as it is.'
};

export const COLOUR_WORDS: Readonly<Record<MarkColour, string>> = {
	ink: 'Blue-black',
	red: 'Red',
	green: 'Green',
	yellow: 'Yellow'
};

/** Widths in millimetres. */
export const WIDTHS = {
	pen: [
		['fine', 0.35],
		['medium', 0.6],
		['broad', 1.1]
	],
	marker: [
		['a line of writing', 5],
		['a wide line', 9]
	]
} as const;

/** What something added is called in the list. */
export function nameOf(mark: Mark): string {
	switch (mark.kind) {
		case 'pen':
			return 'Stroke of the pen';
		case 'marker':
			return 'Stroke of the marker';
		case 'words':
			return `“${mark.text.replace(/\s+/g, ' ').slice(0, 40)}”`;
		case 'strip':
			return 'Strip of paper';
	}
}
