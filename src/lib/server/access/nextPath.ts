/**
 * Where to go after signing in: a path of this site, whatever was asked for.
 * @param origin of this site
 */
export function nextPath(asked: string | null, origin: string): string {
	if (!asked?.startsWith('/')) return '/';
	// Read as a browser will read it: it drops tabs and line ends, and takes a backslash for a slash.
	const url = URL.canParse(asked, origin) ? new URL(asked, origin) : null;
	return url && url.origin === origin ? url.pathname + url.search + url.hash : '/';
}
