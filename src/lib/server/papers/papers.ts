import { randomUUID } from 'node:crypto';
import { access, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { textOfLines } from '../../core/instructions/textOfLines';
import { DEFAULT_TONE } from '../../core/tone/tone';
import { sniff } from '../codec/sniff';
import { receiveFile } from '../edge/receiveFile';
import { SaidError } from '../edge/said';
import type { Services } from '../services/services';

/** A question paper, or instructions, to be read once: nothing refers to it, and it may be gone a day later. */
export interface Paper {
	/** SHA-256 of the file. */
	readonly id: string;
	readonly pages: number;
}

/** Bytes that a paper may have. */
const MOST_BYTES = 50e6;
/** Instructions are short: what is behind this many pages is not read. */
const MOST_PAGES = 12;
/** Letters that a page of a PDF holds when it holds its text; a scan has none, or a stamp. */
const LEAST_LETTERS = 40;
/** Milliseconds for which a paper is kept. */
const KEPT = 24 * 3_600_000;

/**
 * Keeps a paper that somebody brings, in a place of their own.
 * @throws SaidError
 */
export async function keepPaper(services: Services, personId: string, request: Request): Promise<Paper> {
	const folder = folderOf(services, personId);
	await mkdir(folder, { recursive: true });
	await sweep(folder);
	const temporary = join(folder, `.${randomUUID()}.part`);
	try {
		const id = await receiveFile(request, temporary, MOST_BYTES);
		const contents = await services.pool.run('takeIn', { path: temporary });
		if (!contents.ok) throw new SaidError(422, contents.problem);
		if (contents.type === 'zip') {
			throw new SaidError(422, 'This is a ZIP. Bring the paper itself: a PDF, or a picture of its page.');
		}
		await rename(temporary, join(folder, id));
		return { id, pages: Math.min(MOST_PAGES, contents.pictures) };
	} finally {
		await rm(temporary, { force: true });
	}
}

/**
 * The text of one page of a paper: its own where it is a PDF with text, otherwise as it is read.
 * @param index from 0
 * @throws SaidError
 */
export async function paperText(
	services: Services,
	personId: string,
	id: string,
	index: number
): Promise<string> {
	const path = join(folderOf(services, personId), id);
	const isThere = await access(path).then(
		() => true,
		() => false
	);
	if (!isThere || index < 0 || index >= MOST_PAGES)
		throw new SaidError(404, 'There is no such page. Bring the paper again.');
	// It was looked at when it came: its first bytes say what it is.
	const type = await sniff(path);
	if (type === 'pdf') {
		const own = await services.pool.run('pdfText', { path, index });
		if (!own.ok) throw new SaidError(422, own.problem);
		if ((own.text.match(/\p{L}/gu) ?? []).length >= LEAST_LETTERS) return own.text;
	}
	if (!services.reads) {
		throw new SaidError(
			422,
			'This page is a picture, and reading is switched off here. Type or paste its text.'
		);
	}
	const read = await services.pool.run('wholePicture', {
		path,
		type,
		picture: { id: 'paper', source: 'paper', sourcePage: index },
		tone: DEFAULT_TONE,
		questions: null,
		reading: true,
		images: false
	});
	if (!read.ok) throw new SaidError(422, read.problem);
	return read.pages.map(({ reading }) => textOfLines(reading?.lines ?? [])).join('\n');
}

function folderOf({ derived }: Services, personId: string): string {
	return join(derived, 'papers', personId);
}

async function sweep(folder: string): Promise<void> {
	for (const name of await readdir(folder)) {
		const path = join(folder, name);
		const old = await stat(path).then(
			({ mtimeMs }) => Date.now() - mtimeMs > KEPT,
			() => false
		);
		if (old) await rm(path, { force: true });
	}
}
