/**
 * What the recogniser of short writing tells apart, its classes from 1 on; class 0 is "nothing new". Case is not told
 * apart: hands do not keep to it.
 */
export const SHORT_ALPHABET = "0123456789abcdefghijklmnopqrstuvwxyz .,:;-()[]/#=+?!&'%*";

/** A text in the alphabet: without case and accents; signs that are not in it are left out. */
export function shortText(text: string): string {
	const plain = text
		.normalize('NFD')
		.toLowerCase()
		.replace(/[–—]/g, '-')
		.replace(/[×]/g, 'x')
		.replace(/[|]/g, 'l');
	return Array.from(plain, (c) => (SHORT_ALPHABET.includes(c) ? c : '')).join('');
}
