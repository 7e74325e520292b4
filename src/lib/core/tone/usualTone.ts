import { DEFAULT_TONE, type Tone, type ToneName } from './tone';

/** The tone of pages nobody has set one for: greyscale, or the first that the rule sheet allows. */
export function usualTone(sheet: { readonly tone?: readonly ToneName[] }): Tone {
	const allowed = sheet.tone;
	if (!allowed || allowed.includes(DEFAULT_TONE.name)) return DEFAULT_TONE;
	return { ...DEFAULT_TONE, name: allowed[0]! };
}
