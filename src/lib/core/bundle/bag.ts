/** A file of a bag: where it stands in it, and its hashes in hexadecimal. */
export interface BaggedFile {
	/** Below data/, with "/" between folders. */
	readonly path: string;
	readonly bytes: number;
	readonly sha256: string;
	readonly sha512: string;
}

/** What is said of a bag. */
export interface BagInfo {
	readonly source: string;
	readonly description: string;
	/** ISO 8601. */
	readonly made: string;
}

/**
 * The tag files of a bag that holds everything itself (RFC 8493): declaration, description and payload manifests. The tag
 * manifests are over these.
 */
export function tagFiles(files: readonly BaggedFile[], info: BagInfo): { path: string; text: string }[] {
	const sum = files.reduce((all, f) => all + f.bytes, 0);
	return [
		{ path: 'bagit.txt', text: 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n' },
		{
			path: 'bag-info.txt',
			text: [
				`Source-Organization: ${oneLine(info.source)}`,
				`External-Description: ${oneLine(info.description)}`,
				`Bagging-Date: ${info.made.slice(0, 10)}`,
				`Payload-Oxum: ${sum}.${files.length}`,
				'Bag-Software-Agent: Membrana\n'
			].join('\n')
		},
		{ path: 'manifest-sha256.txt', text: manifest(files, 'sha256') },
		{ path: 'manifest-sha512.txt', text: manifest(files, 'sha512') }
	];
}

/** Lines as `sha256sum` writes and checks them; paths as RFC 8493, 2.1.3 has them. */
function manifest(files: readonly BaggedFile[], hash: 'sha256' | 'sha512'): string {
	return files.map((f) => `${f[hash]}  data/${encodePath(f.path)}\n`).join('');
}

/** Ends of lines, and the sign that stands for them, are written otherwise in a manifest. */
function encodePath(path: string): string {
	return path.replace(/%/g, '%25').replace(/\n/g, '%0A').replace(/\r/g, '%0D');
}

/** A manifest over tag files. */
export function tagManifest(files: readonly { readonly path: string; readonly hash: string }[]): string {
	return files.map((f) => `${f.hash}  ${f.path}\n`).join('');
}

function oneLine(text: string): string {
	return text.replace(/\s+/g, ' ').trim();
}

/** A name that is safe on every file system, and that no two files of a folder have. */
export function uniqueNames(wanted: readonly string[]): string[] {
	const taken = new Set<string>();
	return wanted.map((name) => {
		const safe = name.replace(/[\\/:*?"<>|%\p{Cc}]/gu, '_').replace(/^\.+|[. ]+$/g, '_') || '_';
		const dot = safe.lastIndexOf('.');
		const [stem, end] = dot > 0 ? [safe.slice(0, dot), safe.slice(dot)] : [safe, ''];
		let unique = safe;
		for (let n = 2; taken.has(unique.toLowerCase()); n++) unique = `${stem}-${n}${end}`;
		taken.add(unique.toLowerCase());
		return unique;
	});
}
