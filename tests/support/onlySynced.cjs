// Loaded before anything else by a server under test. What a power cut would leave of a folder in the worst case is kept
// beside it: of every file the bytes as they were at its last sync, and no other file; what was taken away is there still
// until its folder is synced. SYNCED_OF names the folder,
// SYNCED_TO where the copy is kept.
const fs = require('node:fs');
const path = require('node:path');
const { threadId } = require('node:worker_threads');

const of = process.env.SYNCED_OF;
const to = process.env.SYNCED_TO;
const copyOf = (file) => path.join(to, path.relative(of, file));
const isInside = (file) => file === of || file.startsWith(of + path.sep);

const { fsyncSync, readlinkSync, copyFileSync, mkdirSync, renameSync, readdirSync, rmSync } = fs;
const pathOf = (descriptor) => {
	try {
		return readlinkSync(`/proc/self/fd/${descriptor}`);
	} catch {
		return '';
	}
};

/** A file was synced: its bytes are safe. A folder was: what is not in it any more is gone from the disk as well. */
function kept(file) {
	if (!isInside(file) || file.endsWith(' (deleted)')) return;
	const copy = copyOf(file);
	if (fs.statSync(file).isDirectory()) {
		mkdirSync(copy, { recursive: true });
		const there = new Set(readdirSync(file));
		for (const name of readdirSync(copy)) {
			if (!there.has(name)) rmSync(path.join(copy, name), { recursive: true, force: true });
		}
		return;
	}
	mkdirSync(path.dirname(copy), { recursive: true });
	// In one go: bytes that were safe before do not go while they are copied again; processes that do it at once have each
	// a copy of their own.
	const fresh = `${to}.fresh ${process.pid}-${threadId}`;
	copyFileSync(file, fresh);
	renameSync(fresh, copy);
}

fs.fsyncSync = (descriptor) => {
	fsyncSync(descriptor);
	kept(pathOf(descriptor));
};

const { open, rename } = fs.promises;
fs.promises.open = async (...given) => {
	const file = await open(...given);
	const sync = file.sync.bind(file);
	file.sync = async () => {
		await sync();
		kept(path.resolve(String(given[0])));
	};
	return file;
};
// A file that was synced keeps its bytes under its new name; the name itself counts once its folder is synced, which the
// code under test does right after.
const moved = (from, into) => {
	if (!isInside(path.resolve(String(into))) || !fs.existsSync(copyOf(path.resolve(String(from))))) return;
	const copy = copyOf(path.resolve(String(into)));
	mkdirSync(path.dirname(copy), { recursive: true });
	renameSync(copyOf(path.resolve(String(from))), copy);
};
fs.promises.rename = async (from, into) => {
	await rename(from, into);
	moved(from, into);
};
fs.renameSync = (from, into) => {
	renameSync(from, into);
	moved(from, into);
};
require('node:module').syncBuiltinESMExports();
