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
		all.add(looked.stack, cut(looked), (page) => Number(page.slice(1)));
		print(`  ${looked.stack.seed}: ${looked.stack.pages.length} pages, ${looked.stack.about}`);
	}
	for (const note of all.notes) print(`  ${note}`);
	for (const line of all.lines()) print(line);
}

export function cut({ stack, pages }: LookedStack) {
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
