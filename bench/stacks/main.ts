import { proposeCuts } from '../../src/lib/core/stack/proposeCuts';
import type { Part } from '../../training/hands';
import { lookedStack, type LookedStack } from './lookedStack';
import type { Kind } from './sampleStack';
import { StackFigures } from './score';

/** Cuts made-up stacks and says what was right. */
export async function benchStacks(
	stacks: number,
	firstSeed: number,
	part: Part,
	most: number,
	kind: Kind,
	print: (line: string) => void
): Promise<void> {
	const all = new StackFigures();
	for (let i = 0; i < stacks; i++) {
		const looked = await lookedStack(firstSeed + i, part, most, kind);
		countStack(all, looked, print);
	}
	for (const line of all.lines()) print(line);
}

/** Cuts a stack, counts what was right, and says at once what was not: many stacks take hours. */
export function countStack(all: StackFigures, looked: LookedStack, print: (line: string) => void): void {
	const { seed, pages, about } = looked.stack;
	const before = all.notes.length;
	all.add(looked.stack, cut(looked), (page) => Number(page.slice(1)));
	print(`  ${seed}: ${pages.length} pages, ${about}; cuts F1 until here ${all.f1.toFixed(3)}`);
	for (const note of all.notes.slice(before)) print(`    ${note}`);
}

function cut({ stack, pages }: LookedStack) {
	return proposeCuts({
		roster: stack.roster.map((p) => ({ id: p.sourcedId, given: p.givenName, family: p.familyName })),
		questions: stack.sheet.questions,
		most: stack.sheet.pages?.max,
		pages: pages.map(({ facts, reading }, i) => ({
			page: { id: `p${i}`, source: 'pile.pdf', sourcePage: i, corners: null, turn: null, tone: null },
			record: {
				prepared: facts,
				reading,
				name: null,
				otherPerson: null,
				sourceName: 'pile.pdf',
				takenAt: null
			}
		}))
	});
}
