import type { TextLine } from '../reading/pageReading';

/**
 * The lines read off a page as text, from the top down; what stands beside each other on the page stands in one line.
 */
export function textOfLines(lines: readonly TextLine[]): string {
	const rows: TextLine[][] = [];
	const middle = ({ box }: TextLine) => (box[1] + box[3]) / 2;
	for (const line of [...lines].sort((a, b) => middle(a) - middle(b))) {
		const row = rows.at(-1);
		const before = row?.at(-1);
		const isBeside = before && middle(line) < before.box[3] - 0.25 * (before.box[3] - before.box[1]);
		if (row && isBeside) row.push(line);
		else rows.push([line]);
	}
	return rows
		.map((row) =>
			row
				.sort((a, b) => a.box[0] - b.box[0])
				.map((line) => line.text)
				.join(' ')
		)
		.join('\n');
}
