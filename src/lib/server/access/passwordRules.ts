import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

export const SHORTEST_PASSWORD = 10;
const LONGEST_PASSWORD = 200;
/** Of 4: below, fewer than a hundred million tries find it, with lists of common passwords at hand. */
const LEAST_SCORE = 3;

let estimator: ZxcvbnFactory | null = null;

/**
 * Why a password is not taken, as a sentence; null for one that is. Common passwords, also with digits hung on, are told
 * by a list that ships with the application.
 * @param about what others know of the person: names, the sign-in name, the school
 */
export function passwordProblem(password: string, about: readonly (string | null)[] = []): string | null {
	if ([...password].length < SHORTEST_PASSWORD) {
		return `A password has at least ${SHORTEST_PASSWORD} characters. Three or four words in a row make a good one.`;
	}
	if (password.length > LONGEST_PASSWORD) return `A password has at most ${LONGEST_PASSWORD} characters.`;
	estimator ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
	const known = about.flatMap((text) => (text ?? '').split(/\s+/)).filter((word) => word.length > 2);
	return estimator.check(password, known).score < LEAST_SCORE
		? 'This password is among the first that somebody would guess. Three or four words in a row make a good one.'
		: null;
}
