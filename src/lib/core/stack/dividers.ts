import type { InkAndPaper } from '../hand/colours';
import type { CoverSheet } from '../reading/coverSheet';
import type { ClassPerson } from './stackPage';

/** A sheet that was laid between packets: one with a person's code, or an empty one of coloured paper. */
export type Divider =
	{ readonly kind: 'cover'; readonly person: number | null } | { readonly kind: 'coloured' };

/** So far from the usual paper of the stack, in shares of its brightness, lies one that is coloured. */
const COLOURED = 0.1;

type Paper = Pick<InkAndPaper, 'paper'> | undefined;

/** How much redder and bluer than green a paper is. */
function tintOf({ paper: [red, green, blue] }: NonNullable<Paper>): readonly [number, number] {
	const most = Math.max(red, green, blue, 1e-3);
	return [(red - green) / most, (blue - green) / most];
}

/** The middle tint of all papers of a stack. */
export function usualTint(papers: readonly Paper[]): readonly [number, number] {
	const tints = papers.flatMap((p) => (p ? [tintOf(p)] : []));
	const middle = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1] ?? 0;
	return [middle(tints.map(([red]) => red)), middle(tints.map(([, blue]) => blue))];
}

/** Whether a paper differs from the usual one as coloured paper does; another light does not make it so. */
export function isColoured(paper: Paper, usual: readonly [number, number]): boolean {
	if (!paper) return false;
	const [red, blue] = tintOf(paper);
	return Math.hypot(red - usual[0], blue - usual[1]) >= COLOURED;
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
