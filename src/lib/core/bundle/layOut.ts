/** Width and height in points. */
export interface Size {
	readonly width: number;
	readonly height: number;
}

/** Something that stands on a page of a bundle, its top edge in points from the page's. */
export type BundleItem =
	| { readonly kind: 'heading'; readonly answer: number; readonly continued: boolean; readonly y: number }
	| { readonly kind: 'cut-out'; readonly answer: number; readonly cutOut: number; readonly y: number };

export interface BundlePage extends Size {
	readonly items: readonly BundleItem[];
}

/** Height of a heading with its room, and of the line between two cut-outs. */
export const HEADING = 34;
export const BETWEEN = 16;

/**
 * Lays the answers to one question out on pages: each under its heading, at true size, its cut-outs one below the other.
 * An answer begins where it fits as a whole, else on a new page; one too long for a page goes on under a heading that
 * says so; a cut-out too high for any page makes its page higher, so that nothing is made smaller.
 *
 * @param answers the sizes of each one's cut-outs
 * @param paper size of an ordinary page
 * @param apart whether every answer has pages of its own
 */
export function layOut(answers: readonly (readonly Size[])[], paper: Size, apart = false): BundlePage[] {
	const pages: (Size & { items: BundleItem[] })[] = [];
	let y = Infinity;
	const begin = () => {
		pages.push({ ...paper, items: [] });
		y = 0;
	};
	answers.forEach((cutOuts, answer) => {
		const whole = HEADING + cutOuts.reduce((sum, c) => sum + c.height + BETWEEN, 0);
		if (y + whole > paper.height && y > 0) begin();
		else if (apart && y > 0) begin();
		const head = (continued: boolean) => {
			pages.at(-1)!.items.push({ kind: 'heading', answer, continued, y });
			y += HEADING;
		};
		head(false);
		cutOuts.forEach(({ width, height }, cutOut) => {
			if (y + height > paper.height && cutOut > 0) {
				begin();
				head(true);
			}
			const page = pages.at(-1)!;
			page.items.push({ kind: 'cut-out', answer, cutOut, y });
			y += height;
			pages[pages.length - 1] = {
				items: page.items,
				width: Math.max(page.width, width),
				height: Math.max(page.height, y)
			};
			y += BETWEEN;
		});
	});
	return pages;
}
