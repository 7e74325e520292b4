import { createHash } from 'node:crypto';
import { rename, writeFile } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { parseArgs } from 'node:util';
import { turnOf } from '../src/lib/core/page/effective';
import { bookmarksOf } from '../src/lib/core/mapping/bookmarks';
import { piecesByQuestion, stretchesOf } from '../src/lib/core/mapping/stretches';
import { byName } from '../src/lib/core/order/byName';
import { likeness, SAME_PAGE } from '../src/lib/core/order/fingerprint';
import { EMPTY_PACKET, type Packet, type TrayReason } from '../src/lib/core/packet/packet';
import { check } from '../src/lib/core/rules/check';
import { evidenceOf } from '../src/lib/core/rules/evidence';
import { expectedFileName } from '../src/lib/core/rules/expectedFileName';
import { usualTone } from '../src/lib/core/tone/usualTone';
import { encodePage, type PageImage } from '../src/lib/server/codec/encode';
import { makePdf } from '../src/lib/server/codec/pdfOut';
import { openSource } from '../src/lib/server/codec/source';
import { filesIn, type InputFile } from './files';
import { sentenceFor } from './inspect';
import { preparePicture, type CliPage } from './pages';
import { readRules } from './rules';

type Prepared = Omit<CliPage, 'finished'> & { readonly image: PageImage };

/**
 * `prepare --rules R.json --person "Given Family" -o OUT.pdf FILE…`: the whole job without a screen.
 * Returns 0 when nothing blocks, 2 when something does, 1 on an error.
 */
export async function prepareFiles(args: string[]): Promise<number> {
	const { values, positionals } = parseArgs({
		args,
		allowPositionals: true,
		options: {
			rules: { type: 'string' },
			person: { type: 'string' },
			output: { type: 'string', short: 'o' }
		}
	});
	const { rules: rulesPath, person: name, output } = values;
	if (!rulesPath || !name || !output || positionals.length === 0) {
		throw new Error('Use: membrana prepare --rules R.json --person "Given Family" -o OUT.pdf FILE…');
	}
	const rules = await readRules(rulesPath);
	const person = splitName(name);
	const pages = await preparePages(positionals, rules);
	const packet = arrange(pages);
	const byId = new Map(pages.map((p) => [p.page.id, p]));
	const strip = packet.strip.map((id) => byId.get(id)!);

	if (strip.length === 0) throw new Error('None of the files holds a page with writing.');
	const pdf = await makePdf({
		title: `${rules.title}, ${name}`,
		author: name,
		subject: rules.course ?? '',
		language: 'en',
		created: new Date(),
		pages: strip.map(({ image, facts }) => ({ image, dotsPerInch: facts.dotsPerInch })),
		bookmarks: bookmarksOf(packet)
	});
	const findings = check({
		sheet: rules,
		packet,
		person,
		now: Date.now(),
		evidence: evidenceOf(
			Object.fromEntries(
				pages.map((p) => [p.page.id, { picture: p.picture, prepared: p.facts, bytes: p.image.bytes.length }])
			)
		)
	});
	const report = {
		file: {
			name: `${packet.fileName ?? expectedFileName(rules, person)}.pdf`,
			bytes: pdf.length,
			sha256: createHash('sha256').update(pdf).digest('hex')
		},
		pages: strip.map(({ page, picture, facts }, i) => ({
			position: i + 1,
			source: page.source,
			sourcePage: page.sourcePage,
			...(page.half === undefined ? {} : { half: page.half }),
			turn: turnOf(page, picture),
			legibility: {
				score: facts.legibility.score,
				verdict: facts.legibility.verdict,
				reasons: facts.legibility.reasons
			},
			pageNumber: null
		})),
		setAside: packet.tray.map(({ page, reason }) => {
			const { source, sourcePage } = byId.get(page)!.page;
			const of = reason === 'duplicate' ? packet.strip.indexOf(twinOf(page, strip, byId)) + 1 : null;
			return { source, sourcePage, reason, ...(of ? { of } : {}) };
		}),
		missing: [],
		map: [...piecesByQuestion(stretchesOf(packet))].map(([question, pieces]) => ({
			question,
			stretches: pieces.map(({ position, top, bottom }) => ({ position, top, bottom })),
			confidence: null
		})),
		findings: findings.map(({ rule, level, message, pages }) => ({ rule, level, message, pages }))
	};
	await writeWhole(output, pdf);
	const json = extname(output) ? output.slice(0, -extname(output).length) + '.json' : `${output}.json`;
	await writeWhole(json, new TextEncoder().encode(`${JSON.stringify(report, null, '\t')}\n`));
	return findings.some((f) => f.level === 'blocks') ? 2 : 0;
}

async function preparePages(
	paths: readonly string[],
	rules: Awaited<ReturnType<typeof readRules>>
): Promise<Prepared[]> {
	const pages: Prepared[] = [];
	const files: InputFile[] = [];
	for (const path of paths) {
		try {
			files.push(...(await filesIn(path)));
		} catch (error) {
			throw new Error(`${basename(path)}: ${sentenceFor(error, path)}`);
		}
	}
	files.sort((a, b) => byName(a.name, b.name));
	for (const [i, { path, name }] of files.entries()) {
		try {
			const contents = await openSource(path);
			for (let index = 0; index < contents.pictures; index++) {
				const place = { id: `${i}-${index}`, source: name, sourcePage: index };
				const made = preparePicture(path, contents.type, place, usualTone(rules), rules.pages?.size);
				for await (const { finished, ...rest } of made) {
					pages.push({ ...rest, image: await encodePage(finished) });
				}
			}
		} catch (error) {
			throw new Error(`${name}: ${sentenceFor(error, path)}`);
		}
	}
	return pages;
}

/** File order; blank pages and the less readable of two pictures of one page go to the side tray. */
function arrange(pages: readonly Prepared[]): Packet {
	const strip: Prepared[] = [];
	const tray: { page: string; reason: TrayReason }[] = [];
	for (const page of pages) {
		if (page.facts.blank) {
			tray.push({ page: page.page.id, reason: 'blank' });
			continue;
		}
		const twin = strip.findIndex((s) => likeness(s.facts.fingerprint, page.facts.fingerprint) >= SAME_PAGE);
		if (twin < 0) strip.push(page);
		else {
			const better = page.facts.legibility.score > strip[twin]!.facts.legibility.score;
			tray.push({ page: (better ? strip[twin]! : page).page.id, reason: 'duplicate' });
			if (better) strip[twin] = page;
		}
	}
	return {
		...EMPTY_PACKET,
		pages: Object.fromEntries(pages.map((p) => [p.page.id, p.page])),
		strip: strip.map((p) => p.page.id),
		tray
	};
}

function twinOf(id: string, strip: readonly Prepared[], byId: ReadonlyMap<string, Prepared>): string {
	const mine = byId.get(id)!.facts.fingerprint;
	return strip.find((s) => likeness(s.facts.fingerprint, mine) >= SAME_PAGE)?.page.id ?? '';
}

/** The last word is the family name, as people write their names here. */
function splitName(name: string): { given: string; family: string } {
	const words = name.trim().split(/\s+/);
	return { given: words.slice(0, -1).join(' '), family: words.at(-1) ?? '' };
}

async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
	await writeFile(`${path}.part`, bytes);
	await rename(`${path}.part`, path);
}
