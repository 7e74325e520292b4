/** "812 bytes", "210 KB", "4.6 MB", "72 GB": decimal units, as file limits are usually given. */
export function formatBytes(bytes: number): string {
	if (bytes < 1000) return `${bytes} bytes`;
	if (bytes < 1_000_000) return `${Math.round(bytes / 1000)} KB`;
	const isGiga = bytes >= 10e9;
	const size = bytes / (isGiga ? 1e9 : 1e6);
	return `${size < 10 ? size.toFixed(1).replace(/\.0$/, '') : Math.round(size)} ${isGiga ? 'GB' : 'MB'}`;
}
