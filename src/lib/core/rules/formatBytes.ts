/** "812 bytes", "210 KB", "4.6 MB": decimal units, as file limits are usually given. */
export function formatBytes(bytes: number): string {
	if (bytes < 1000) return `${bytes} bytes`;
	if (bytes < 1_000_000) return `${Math.round(bytes / 1000)} KB`;
	const mega = bytes / 1_000_000;
	return `${mega < 10 ? mega.toFixed(1).replace(/\.0$/, '') : Math.round(mega)} MB`;
}
