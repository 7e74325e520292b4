/** What a name pattern can hold in braces. */
export const NAME_TOKENS = ['family', 'given', 'course', 'title'] as const;
export type NameToken = (typeof NAME_TOKENS)[number];

const TOKEN = /\{([^{}]*)\}/g;

/** What is wrong with a pattern, as a sentence, or null. */
export function patternProblem(pattern: string): string | null {
	if (pattern.trim() === '') return 'the pattern is empty';
	for (const [, token] of pattern.matchAll(TOKEN)) {
		if (!NAME_TOKENS.includes(token as NameToken)) {
			return `there is no token {${token}}; there are ${NAME_TOKENS.map((t) => `{${t}}`).join(', ')}`;
		}
	}
	if (/[{}]/.test(pattern.replace(TOKEN, ''))) return 'a brace is opened or closed without its partner';
	return null;
}

/** The name a pattern gives for one person, made safe for every file system; without extension. */
export function nameFromPattern(pattern: string, values: Readonly<Record<NameToken, string>>): string {
	return safeName(
		pattern.replace(TOKEN, (_, token: string) =>
			(values[token as NameToken] ?? '').trim().replace(/\s+/g, '-')
		)
	);
}

/**
 * A name no file system refuses: without the characters that Windows forbids, control characters,
 * leading or trailing dots and spaces; in Unicode's composed form; at most 120 bytes in UTF-8.
 */
export function safeName(name: string): string {
	let safe = name
		.normalize('NFC')
		// eslint-disable-next-line no-control-regex
		.replace(/[<>:"/\\|?*\u0000-\u001f\u007f]/g, '-')
		.replace(/[\u200b-\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g, '')
		.replace(/^[. ]+|[. ]+$/g, '');
	while (byteLength(safe) > LONGEST) safe = [...safe].slice(0, -1).join('');
	return RESERVED.test(safe) || safe === '' ? `file-${safe}` : safe;
}

const LONGEST = 120;
/** Device names that Windows reserves, with or without an extension. */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i;

/** Why a name (without extension) may be refused by another system; empty when it will not. */
export function nameProblems(name: string): string[] {
	const problems: string[] = [];
	if (name.trim() === '') return ['the name is empty'];
	// eslint-disable-next-line no-control-regex
	const bad = [...new Set(name.match(/[<>:"/\\|?*\u0000-\u001f\u007f]/g) ?? [])];
	if (bad.length > 0)
		problems.push(`it holds ${bad.map((c) => (c < ' ' ? 'a control character' : c)).join(' ')}`);
	if (/^[. ]|[. ]$/.test(name)) problems.push('it begins or ends with a dot or a space');
	if (RESERVED.test(name)) problems.push('Windows keeps this name for a device');
	if (byteLength(name) > LONGEST) problems.push(`it is longer than ${LONGEST} bytes`);
	return problems;
}

function byteLength(text: string): number {
	return new TextEncoder().encode(text).length;
}
