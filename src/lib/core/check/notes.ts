import { RULE_TITLES } from './check';
import type { Finding } from '../rules/finding';
import type { Packet } from '../packet/packet';

/** The notes to the teacher that go along: those on findings that still ask to look, with what was found. */
export function notesThatGo(
	notes: Packet['notes'],
	findings: readonly Finding[]
): { readonly finding: Finding; readonly note: string }[] {
	return findings.flatMap((finding) => {
		const note = notes?.[finding.rule];
		return note && finding.level === 'look' ? [{ finding, note }] : [];
	});
}

/** The same as text: a paragraph a note. */
export function notesInWords(notes: Packet['notes'], findings: readonly Finding[]): string {
	return notesThatGo(notes, findings)
		.map(({ finding, note }) => `${RULE_TITLES[finding.rule]} (${finding.message}): ${note}`)
		.join('\n');
}
