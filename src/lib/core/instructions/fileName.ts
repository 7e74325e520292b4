import { proposal, type ProposalOf } from './proposal';
import type { Sentence } from './words';

/** Words after which a name is given. */
const TRIGGER = /\b(?:call(?:ed)?|named?|file ?names?|save(?:d)? (?:it )?as|titled?)\b/gi;
/** In quotes anything; otherwise letters with signs between, and what stands in brackets for something else. */
const CANDIDATE =
	/"([^"\n]{3,80})"|((?:\[[^\]\n]{2,30}\]|<[^>\n]{2,30}>|\{[^}\n]{2,30}\}|[\p{L}\p{N}])(?:[\p{L}\p{N}_.-]|\[[^\]\n]{2,30}\]|<[^>\n]{2,30}>|\{[^}\n]{2,30}\})*)/gu;

const PARTS: readonly (readonly [string, RegExp])[] = [
	['{family}', /[[<{(]?(?:(?:family|last)(?:[ _-]?names?)?|surnames?)[\]>})]?/gi],
	['{given}', /[[<{(]?(?:(?:given|first)(?:[ _-]?names?)?|forenames?)[\]>})]?/gi],
	['{course}', /[[<{(]?(?:course(?:[ _-]?(?:code|number))?)[\]>})]?/gi]
];
/** Parts of a name that no pattern can fill in. */
const UNKNOWN =
	/[[<].*?[\]>]|\{(?!family\}|given\}|course\})[^}]*\}|student[ _-]?(?:id|no|nr|number)|initial|your[ _-]?name|group|#/i;

/** The pattern of the file's name. */
export function nameIn(sentences: readonly Sentence[]): ProposalOf<'namePattern'> | null {
	for (const sentence of sentences) {
		for (const trigger of sentence.text.matchAll(TRIGGER)) {
			const start = trigger.index + trigger[0].length;
			const window = sentence.text.slice(start, start + 110);
			for (const match of window.matchAll(CANDIDATE)) {
				const quoted = match[1] !== undefined;
				const raw = (match[1] ?? match[2]!).replace(/[.,:-]+$/, '');
				const bare = raw.replace(/\.(?:pdf|zip)$/i, '');
				const pattern = patternOf(bare);
				const isNamed = pattern !== bare || raw !== bare;
				// A word alone may be part of the sentence: a name has signs in it, or says whose it is with one.
				const isShaped = quoted || /[_{[<.]|\p{L}-\p{L}/u.test(bare);
				if (!(quoted ? isNamed || /[_\d]/.test(bare) : isShaped && (isNamed || /_/.test(bare)))) continue;
				if (!quoted && isNamed && !/[_\-.[<{]/.test(bare) && raw === bare) continue;
				const from = sentence.from + start + match.index + (quoted ? 1 : 0);
				return proposal('namePattern', pattern, [{ from, to: from + raw.length }], !UNKNOWN.test(pattern));
			}
		}
	}
	return null;
}

function patternOf(name: string): string {
	let pattern = name;
	for (const [token, words] of PARTS) {
		pattern = pattern.replace(words, (found, at: number, whole: string) => {
			const before = whole[at - 1] ?? ' ';
			const after = whole[at + found.length] ?? ' ';
			// Whole words only, also in LastnameFirstname.
			const begins = !/\p{L}/u.test(before) || (/\p{Ll}/u.test(before) && /\p{Lu}/u.test(found[0]!));
			const ends = !/\p{L}/u.test(after) || /\p{Lu}/u.test(after) || after === '{';
			return begins && ends ? token : found;
		});
	}
	return pattern;
}
