import type { InkAndPaper } from '../hand/colours';
import type { CoverSheet } from '../reading/coverSheet';
import type { ClassPerson } from './stackPage';

/** A sheet that was laid between packets: one with a person's code, or an empty one of coloured paper. */
export type Divider =
	{ readonly kind: 'cover'; readonly person: number | null } | { readonly kind: 'coloured' };

/** Whether what lies before a page was laid there to part packets. */
export function isDivider(before: Divider['kind'] | 'blank' | null): before is Divider['kind'] {
	return before === 'cover' || before === 'coloured';
}

/** Paper of two tints differs by at least this, in shares of its brightness. */
const COLOURED = 0.1;

/** How much redder and bluer than green a paper is. */
type Tint = readonly [red: number, blue: number];

function tintOf({ paper: [red, green, blue] }: Pick<InkAndPaper, 'paper'>): Tint {
	const most = Math.max(red, green, blue, 1e-3);
	return [(red - green) / most, (blue - green) / most];
}

/**
 * Which empty sides are of coloured paper: other than the usual one of the stack, and other than that of the written
 * pages before and behind, which lay in the same light.
 *
 * @param sides in the order in which they were fed; `paper` is absent where it is not known
 */
export function colouredSides(
	sides: readonly { readonly isEmpty: boolean; readonly paper: Pick<InkAndPaper, 'paper'> | undefined }[]
): boolean[] {
	const tints = sides.map(({ paper }) => paper && tintOf(paper));
	const middle = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1] ?? 0;
	const known = tints.filter((tint) => tint !== undefined);
	const usual: Tint = [middle(known.map(([red]) => red)), middle(known.map(([, blue]) => blue))];
	const isWritten = (_: unknown, i: number) => !sides[i]!.isEmpty && tints[i] !== undefined;
	return sides.map(({ isEmpty }, i) => {
		const own = tints[i];
		if (!isEmpty || !own) return false;
		const beside = [tints.slice(0, i).findLast(isWritten), tints.find((t, k) => k > i && isWritten(t, k))];
		return [usual, ...beside].every(
			(tint) => !tint || Math.hypot(own[0] - tint[0], own[1] - tint[1]) >= COLOURED
		);
	});
}

/**
 * Whose packet a cover sheet announces.
 *
 * @param assignment that the stack is of; absent: any
 * @returns the person's place in the roster, or null where it is of another assignment or names nobody in the class
 */
export function coveredBy(
	cover: CoverSheet,
	roster: readonly ClassPerson[],
	assignment: string | undefined
): number | null {
	if (assignment && cover.assignment && cover.assignment !== assignment) return null;
	const at = roster.findIndex((p) => (p.sourcedId ?? p.id) === cover.person);
	return at < 0 ? null : at;
}
