import { readFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { EveryCore } from '../cli/everyCore';
import { blankOf } from '../src/lib/core/page/blank';
import { cornersOf, foundTurn, SURE_TURN, turnOf } from '../src/lib/core/page/effective';
import type { Point, Quadrilateral } from '../src/lib/core/sheet/geometry';
import type { WholePage } from '../src/lib/server/work/wholePicture';
import { coverage } from './coverage';
import { reliability, type Judged } from './reliability';

/** What is true of a picture, set by eye. */
interface Truth {
	readonly file: string;
	/** "negative": there is no page on it. With "scan" in it: scanned. */
	readonly kind: string;
	/** In pixels as displayed; null where there is no sheet. */
	readonly corners: Quadrilateral | null;
	readonly alternatives?: readonly Quadrilateral[];
	/** Null where nothing tells. */
	readonly turn: number | null;
	readonly pages: number | null;
}

const RIGHT = 0.95;

/** Judges preparation on a folder of real pictures with their truth in `truth.json`; see docs/preparation.md. */
export async function benchReal(folder: string, print: (line: string) => void): Promise<void> {
	const truths = JSON.parse(await readFile(join(folder, 'truth.json'), 'utf8')) as Truth[];
	const cores = new EveryCore();
	const looked = await Promise.all(
		truths.map(async (truth) => {
			const path = resolve(folder, truth.file);
			const { pages } = await cores
				.pagesOfFile(path, (index) => ({
					picture: { id: `${truth.file}-${index}`, source: truth.file, sourcePage: index },
					tone: { name: 'greyscale', evenLight: true, inkWeight: 0 },
					questions: null,
					reading: true,
					images: false
				}))
				.catch((error: Error) => {
					print(`${truth.file}: ${error.message}`);
					return { pages: [] };
				});
			return { truth, pages };
		})
	);
	await cores.close();
	const seen = looked.filter(({ pages }) => pages.length > 0);
	const verdicts = seen.filter(({ truth }) => truth.kind !== 'negative').map((one) => judge(one));
	for (const { truth, faults } of verdicts) {
		if (faults.length > 0) print(`${truth.kind.padEnd(26)}${truth.file.padEnd(34)}${faults.join('; ')}`);
	}
	const count = (of: readonly unknown[], is: number) => `${is} of ${of.length}`;
	const outlines = verdicts.flatMap((v) => v.outline ?? []);
	const turns = verdicts.filter((v) => v.turn !== null);
	const negatives = seen.filter(({ truth }) => truth.kind === 'negative');
	const scans = seen.filter(({ truth }) => truth.kind.includes('scan'));
	const wrongTurns = turns.filter((v) => !v.turn!.right);
	print(`right in all            ${count(verdicts, verdicts.filter((v) => v.faults.length === 0).length)}`);
	print(
		`outline wrong and sure  ${count(outlines, outlines.filter((o) => !o.right && o.confidence >= 0.5).length)}`
	);
	print(
		`turn right              ${count(turns, turns.length - wrongTurns.length)}; of the others, ${wrongTurns.filter((v) => v.turn!.confidence < SURE_TURN).length} said to be unsure`
	);
	print(
		`sheets made up          ${count(negatives, negatives.filter(({ pages }) => pages.length > 1 || surest(pages) >= 0.5).length)}`
	);
	print(
		`pictures called clear that hold no page  ${count(negatives, negatives.filter(({ pages }) => pages[0]!.facts.legibility.verdict === 'clear').length)}`
	);
	print(
		`scans with glare        ${count(scans, scans.filter(({ pages }) => pages.some((p) => p.facts.legibility.reasons.includes('glare'))).length)}`
	);
	print(
		`pages called blank      ${
			seen
				.filter(({ pages }) => pages.some((p) => blankOf(p.facts, p.reading) === 'yes'))
				.map(({ truth }) => truth.file)
				.join(' ') || 'none'
		}`
	);
	for (const line of reliability(outlines)) print(`outline, ${line}`);
}

interface Verdict {
	readonly truth: Truth;
	readonly faults: readonly string[];
	readonly outline: Judged | null;
	readonly turn: Judged | null;
}

function judge({ truth, pages }: { truth: Truth; pages: readonly WholePage[] }): Verdict {
	const first = pages.filter((p) => p.page.sourcePage === 0);
	const { picture } = first[0]!;
	const faults: string[] = [];
	let outline: Judged | null = null;
	let turn: Judged | null = null;
	if (truth.corners) {
		const found = first.map((p) => cornersOf(p.page, p.picture) as readonly Point[]);
		const right = [truth.corners, ...(truth.alternatives ?? [])];
		const best = Math.max(...right.map((r) => coverage(found, r, picture.width, picture.height)));
		const confidence = surest(first);
		outline = { confidence, right: best >= RIGHT };
		if (best < RIGHT) faults.push(`outline ${best.toFixed(2)} at ${confidence.toFixed(2)}`);
	}
	if (truth.turn !== null && first.length === 1) {
		const found = turnOf(first[0]!.page, picture);
		turn = { confidence: foundTurn(picture).confidence, right: found === truth.turn };
		if (found !== truth.turn) faults.push(`turn ${found}, not ${truth.turn}`);
	}
	if (truth.pages !== null && pages.length !== truth.pages) {
		faults.push(`${pages.length} pages, not ${truth.pages}`);
	}
	return { truth, faults, outline, turn };
}

function surest(pages: readonly WholePage[]): number {
	return Math.max(...pages.map((p) => p.picture.outline.confidence));
}
