import { photograph } from '../demo/generator/photograph';
import type { Block } from '../demo/generator/writtenPage';
import { foundTurn, SURE_TURN, turnOf } from '../src/lib/core/page/effective';
import { guessTurnOf } from '../src/lib/core/page/preparePage';
import { readTurn } from '../src/lib/server/reader/readTurn';
import { situationSpec, SITUATIONS, specimenPage } from './situations';

const SPARSE: readonly Block[] = [
	{ kind: 'space', lines: 12 },
	{ kind: 'text', lines: ['so the mean is 0.38 here', 'which is what we expected'] },
	{ kind: 'space', lines: 3 },
	{ kind: 'graph', title: 'day 2', axes: ['Q / m3 s-1', 't / h'] }
];
const TABLE: readonly Block[] = [
	{ kind: 'label', text: '3b)' },
	{
		kind: 'table',
		rows: [
			['t', 'Q', 'h'],
			['12', '0.4', '1.1'],
			['13', '0.9', '1.4'],
			['14', '0.7', '1.2']
		]
	}
];
/** Full pages of text, a table of numbers, and a few words above a sketch in the lower half. */
const KINDS = {
	text: {},
	table: { blocks: TABLE },
	sparse: { name: undefined, pageNumber: undefined, blocks: SPARSE }
};

/** Measures how often the turn is right: from the layout of the writing, and from reading it. */
export async function benchTurns(
	count: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const kinds = Object.keys(KINDS) as (keyof typeof KINDS)[];
	const right = { layout: 0, inForce: 0 };
	const wrong = { sure: 0, unsure: 0 };
	for (let i = 0; i < count; i++) {
		const seed = firstSeed + i * 37;
		const page = specimenPage(seed, 7, KINDS[kinds[i % kinds.length]!]);
		const { picture, corners, turn } = photograph(page.picture, {
			...situationSpec(SITUATIONS[i % SITUATIONS.length]!, seed, [1500, 2000]),
			lies: ([0, 90, 180, 270] as const)[i % 4]
		});
		const layout = guessTurnOf(picture, corners);
		const found = { turn: layout, readTurn: await readTurn(picture, corners) };
		right.layout += Number(layout.turn === turn);
		if (turnOf({ turn: null }, found) === turn) right.inForce++;
		else if (foundTurn(found).confidence < SURE_TURN) wrong.unsure++;
		else wrong.sure++;
	}
	print(
		`turns right: ${right.layout} of ${count} from the layout, ${right.inForce} of ${count} in force after reading`
	);
	print(`the others: ${wrong.unsure} left as they came and pointed out, ${wrong.sure} wrong and sure of it`);
}
