/** What RFC 8187 does not allow in a name, and `encodeURIComponent` leaves. */
const LEFT = /['()*]/g;

/**
 * The `content-disposition` with which a browser keeps an answer under a name (RFC 6266, in the UTF-8 form of RFC 8187).
 *
 * @param shown it is shown, and only kept under that name if somebody wants it
 */
export function asFile(name: string, shown = false): string {
	const encoded = encodeURIComponent(name).replace(
		LEFT,
		(c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`
	);
	return `${shown ? 'inline' : 'attachment'}; filename*=UTF-8''${encoded}`;
}
