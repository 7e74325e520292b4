import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { EveryCore } from '../cli/everyCore';
import { writtenPage } from '../demo/generator/writtenPage';
import { hideInk, type Samples } from '../src/lib/core/bundle/hideInk';
import { knownInHeaders, namesInPacket, namesOnPage } from '../src/lib/core/bundle/namePlaces';
import type { TextLine } from '../src/lib/core/reading/pageReading';
import { likest, type RosterPerson } from '../src/lib/core/reading/personName';
import { DEFAULT_TONE } from '../src/lib/core/tone/tone';
import type { Part } from '../training/hands';
import { stackPicture } from './stacks/lookedStack';
import { sampleStack, type ClassStack, type Kind, type SampleStack } from './stacks/sampleStack';

/** Text as like a name as this is that name, for who reads it. */
const READABLE = 0.7;
/** The generator writes names above this part of the page's height. */
const HEADER = 0.085;

/** Stacks of some world, and where the names are in them. */
export interface StacksWithNames<S extends ClassStack> {
	/** Each is asked for when what was made of the one before is done with. */
	readonly stacks: Iterable<S> | AsyncIterable<S>;
	readonly picture: (stack: S, index: number) => Promise<Buffer>;
	/** Somewhere in a page's name, as fractions of the page. */
	readonly nameAt: (page: S['pages'][number]) => readonly [number, number];
}

/**
 * Hides the names on the pages of made-up stacks, each as if its packet were known, and reads what is left.
 */
export async function benchHiddenNames<S extends ClassStack>(
	{ stacks, picture, nameAt }: StacksWithNames<S>,
	print: (line: string) => void
): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'membrana-names-'));
	const cores = new EveryCore();
	const sum = { pages: 0, names: 0, covered: 0, readable: 0, missed: 0, look: 0, needless: 0, work: 0 };
	for await (const stack of stacks) {
		const roster = stack.roster.map((p) => ({ given: p.givenName, family: p.familyName, id: p.sourcedId }));
		const packets = new Map<string, { page: S['pages'][number]; index: number }[]>();
		stack.pages.forEach((page, index) => {
			if (page.role === 'blank' || !page.owner) return;
			packets.set(page.owner, [...(packets.get(page.owner) ?? []), { page, index }]);
		});
		for (const [owner, pages] of packets) {
			const writer = roster.find((p) => p.id === owner)!;
			const looked = await Promise.all(
				pages.map(async ({ page, index }) => {
					const path = join(folder, `${stack.seed}-${index}.jpg`);
					writeFileSync(path, await picture(stack, index));
					const [made] = await cores.pages({
						path,
						type: 'jpeg',
						picture: { id: `p${index}`, source: 'pile.pdf', sourcePage: index },
						tone: { ...DEFAULT_TONE, name: 'greyscale' },
						questions: stack.sheet.questions,
						paper: 'A4',
						reading: true,
						images: true
					});
					const view = path.replace('.jpg', '-page.jpg');
					writeFileSync(view, made!.made!.view);
					return { page, view, made: made! };
				})
			);
			const known = knownInHeaders(stack.sheet);
			const names = namesInPacket(looked.map(({ made }) => namesOnPage(made.reading, roster, writer, known)));
			await Promise.all(
				looked.map(async ({ page, view, made }, i) => {
					const { places, look } = names[i]!;
					const boxes = places.map((p) => p.box);
					const { dotsPerInch } = made.facts;
					const asked = { kind: 'image', path: view, dotsPerInch, text: [] } as const;
					const left = await cores.step('namesLeft', { page: asked, hide: boxes, roster, writer });
					const hide = [...boxes, ...left.places.map((p) => p.box)];
					const isSure = look === null && left.places.length === 0;
					await writeWithout(view, hide);
					const reading = await cores.read({ view: `${view}.hidden.jpg`, dotsPerInch, questions: [] });
					const readable = reading.lines.some((line) => says(line, writer));
					const at = page.named ? nameAt(page) : null;
					const covered = at !== null && hide.some((box) => holds(box, at));
					sum.pages++;
					sum.names += Number(page.named);
					sum.covered += Number(covered);
					sum.readable += Number(readable);
					const missed = (page.named && !covered) || readable;
					sum.missed += Number(missed && isSure);
					sum.look += Number(!isSure);
					sum.needless += Number(!isSure && !missed);
					const below = hide.filter((box) => (box[1] + box[3]) / 2 > HEADER);
					sum.work += below.length;
					if (missed)
						print(
							`  ${view}: ${writer.given} ${writer.family} ${covered ? 'readable' : 'not found'}, ${isSure ? 'SURE' : 'not sure'}`
						);
					for (const box of below) print(`  ${view}: hidden at ${box.join(' ')}`);
				})
			);
		}
	}
	await cores.close();
	print(
		`Hidden names: ${sum.pages} pages, ${sum.names} with a name; covered ${sum.covered}/${sum.names}, still read on ${sum.readable}, left and sure ${sum.missed}; put before a person ${sum.look}, of them needlessly ${sum.needless}; places hidden in the work ${sum.work}`
	);
	if (sum.missed + sum.work === 0) rmSync(folder, { recursive: true });
}

/** Stacks of the demo's generator. */
export function drawnStacks(
	stacks: number,
	firstSeed: number,
	part: Part,
	most: number,
	kind: Kind
): StacksWithNames<SampleStack> {
	return {
		stacks: (function* () {
			for (let s = 0; s < stacks; s++) yield sampleStack(firstSeed + s, part, most, kind);
		})(),
		picture: (stack, index) => stackPicture(stack, stack.pages[index]!, stack.seed * 1000 + index),
		nameAt: ({ spec }) => {
			const [x, y] = writtenPage({ ...spec!, scale: 2, blocks: [] }).nameAt!;
			return [x + 0.03, y - 0.008];
		}
	};
}

function holds([x0, y0, x1, y1]: TextLine['box'], [x, y]: readonly [number, number]): boolean {
	const room = 0.012;
	return x >= x0 - room && x <= x1 + room && y >= y0 - room && y <= y1 + room;
}

function says({ text }: TextLine, writer: RosterPerson): boolean {
	const words = text.split(/\s+/);
	return words.some((_, i) =>
		[1, 2, 3].some((n) => {
			const piece = words.slice(i, i + n).join(' ');
			return piece.replace(/[^\p{L}]/gu, '').length >= 4 && likest(piece, writer) >= READABLE;
		})
	);
}

async function writeWithout(path: string, hide: readonly TextLine['box'][]): Promise<void> {
	const { data, info } = await sharp(path).toColourspace('b-w').raw().toBuffer({ resolveWithObject: true });
	const samples: Samples = { width: info.width, height: info.height, channels: 1, data };
	hideInk(samples, hide);
	const raw = { width: info.width, height: info.height, channels: 1 } as const;
	await sharp(data, { raw }).jpeg({ quality: 85 }).toFile(`${path}.hidden.jpg`);
}
