import { createHash } from 'node:crypto';
import { rename, writeFile } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { parseArgs } from 'node:util';
import { turnOf } from '../src/lib/core/page/effective';
import { bookmarksOf } from '../src/lib/core/mapping/bookmarks';
import { withLabelsSettled } from '../src/lib/core/mapping/settleLabels';
import { proposeSeams } from '../src/lib/core/mapping/proposeSeams';
import { byName } from '../src/lib/core/order/byName';
import { cluesOf } from '../src/lib/core/order/pageClues';
import { proposeOrder, type PlacedPage } from '../src/lib/core/order/proposeOrder';
import { manifestOf } from '../src/lib/core/packet/manifest';
import type { PageRecord } from '../src/lib/core/page/pageRecord';
import { EMPTY_PACKET, type Packet } from '../src/lib/core/packet/packet';
import { nameOnPage, type NameReading, type RosterPerson } from '../src/lib/core/reading/personName';
import { check } from '../src/lib/core/check/check';
import { expectedFileName } from '../src/lib/core/rules/expectedFileName';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import type { PageWeight } from '../src/lib/core/size/pageWeights';
import { usualTone } from '../src/lib/core/tone/usualTone';
import { makePdf } from '../src/lib/server/codec/pdfOut';
import type { SourceType } from '../src/lib/server/codec/sniff';
import { zipPages } from '../src/lib/server/codec/zipOut';
import type { PageImages, WholePage } from '../src/lib/server/work/wholePicture';
import { EveryCore } from './everyCore';
import { filesIn, type InputFile } from './files';
import { sentenceFor } from './inspect';

import { makeSmaller } from './makeSmaller';
import { readRules } from './rules';

/** A page of the packet with its image for the file. */
export type Prepared = Omit<WholePage, 'made' | 'milliseconds'> &
	PageImages & {
		readonly file: { readonly path: string; readonly type: SourceType };
		/** Ways to keep it smaller, once they were weighed. */
		readonly weights: readonly PageWeight[] | null;
		readonly takenAt: number | null;
		/** The name at the top, when it is another one than the person's. */
		readonly otherPerson: string | null;
		readonly name: NameReading | null;
	};

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
			output: { type: 'string', short: 'o' },
			'no-reading': { type: 'boolean' }
		}
	});
	const { rules: rulesPath, person: name, output } = values;
	if (!rulesPath || !name || !output || positionals.length === 0) {
		throw new Error(
			'Use: membrana prepare --rules R.json --person "Given Family" [--no-reading] -o OUT.pdf FILE…'
		);
	}
	const rules = await readRules(rulesPath);
	const person = splitName(name);
	const found = await preparePages(positionals, rules, person, !values['no-reading']);
	const { packet: arranged, order, seams } = arrange(found, rules);
	const { pages, packet } = await makeSmaller(found, arranged, rules, evidence);
	const byId = new Map(pages.map((p) => [p.page.id, p]));
	const strip = packet.strip.map((id) => byId.get(id)!);

	if (strip.length === 0) throw new Error('None of the files holds a page with writing.');
	const fileType = extname(output).toLowerCase() === '.zip' ? 'zip' : 'pdf';
	const fileName = packet.fileName ?? expectedFileName(rules, person);
	const file = fileType === 'zip' ? zipOf(strip, fileName) : await pdfOf(strip, packet, rules, name);
	const findings = check({
		sheet: rules,
		packet,
		person,
		fileType,
		now: Date.now(),
		evidence: evidence(pages, packet)
	});
	const report = manifestOf({
		file: {
			name: `${fileName}.${fileType}`,
			bytes: file.length,
			sha256: createHash('sha256').update(file).digest('hex')
		},
		packet,
		findings,
		page: (id) => {
			const { page, picture, facts, reading } = byId.get(id)!;
			const placed = order.strip.find((s) => s.page === id);
			return {
				...page,
				turn: turnOf(page, picture),
				legibility: facts.legibility,
				pageNumber: placed ? numberOf(placed) : null,
				lines: reading?.lines ?? []
			};
		},
		missing: order.missing,
		repeats: (id) => order.setAside.find((s) => s.page === id)?.of ?? null,
		confidence: (question) =>
			Math.min(1, ...seams.filter((s) => s.questions.includes(question)).map((s) => s.confidence))
	});
	await writeWhole(output, file);
	const json = extname(output) ? output.slice(0, -extname(output).length) + '.json' : `${output}.json`;
	await writeWhole(json, new TextEncoder().encode(`${JSON.stringify(report, null, '\t')}\n`));
	return findings.some((f) => f.level === 'blocks') ? 2 : 0;
}

/** Everything that the rules look at. */
function evidence(
	pages: readonly Prepared[],
	packet: Pick<Packet, 'strip' | 'seams'>
): Record<string, PageRecord> {
	return withLabelsSettled(Object.fromEntries(pages.map((p) => [p.page.id, recordOf(p)])), packet);
}

function zipOf(strip: readonly Prepared[], name: string): Uint8Array {
	const pages = strip.map(({ image, view }) =>
		image.format === 'g4'
			? { bytes: view, extension: 'png' as const }
			: { bytes: image.bytes, extension: 'jpg' as const }
	);
	return zipPages(name, pages, new Date());
}

function pdfOf(strip: readonly Prepared[], packet: Packet, rules: RuleSheet, name: string) {
	return makePdf({
		title: `${rules.title}, ${name}`,
		author: name,
		subject: rules.course ?? '',
		language: 'en',
		created: new Date(),
		pages: strip.map(({ image, facts, reading }) => ({
			image,
			// The resolution that gives the page its size, whatever the number of pixels.
			dotsPerInch: (facts.dotsPerInch * image.width) / facts.width,
			text: reading?.lines ?? []
		})),
		bookmarks: bookmarksOf(packet)
	});
}

async function preparePages(
	paths: readonly string[],
	rules: RuleSheet,
	person: RosterPerson,
	reading: boolean
): Promise<Prepared[]> {
	const files: InputFile[] = [];
	for (const path of paths) {
		try {
			files.push(...(await filesIn(path)));
		} catch (error) {
			throw new Error(`${basename(path)}: ${sentenceFor(error, path)}`);
		}
	}
	files.sort((a, b) => byName(a.name, b.name));
	const cores = new EveryCore();
	const made = await Promise.allSettled(
		files.map(async ({ path, name }, i) => {
			const { contents, pages } = await cores.pagesOfFile(path, (index) => ({
				picture: { id: `${i}-${index}`, source: name, sourcePage: index },
				tone: usualTone(rules),
				questions: rules.questions,
				...(rules.pages?.size ? { paper: rules.pages.size } : {}),
				reading,
				images: true
			}));
			return pages.map(({ made, milliseconds: _, ...page }): Prepared => ({
				...page,
				...made!,
				file: { path, type: contents.type },
				weights: null,
				takenAt: contents.takenAt === null ? null : Date.parse(contents.takenAt),
				otherPerson: null,
				name: page.reading && nameOnPage(page.reading, [person])
			}));
		})
	);
	await cores.close();
	const pages = made.flatMap((one, i) => {
		const { path, name } = files[i]!;
		if (one.status === 'rejected') throw new Error(`${name}: ${sentenceFor(one.reason, path)}`);
		return one.value;
	});
	const others = otherNames(
		pages.map((p) => p.name),
		rules
	);
	return pages.map((p, i) => ({ ...p, otherPerson: others[i]! }));
}

/** The order and the map that reading proposes. */
function arrange(pages: readonly Prepared[], rules: RuleSheet) {
	const records = evidence(pages, { strip: pages.map((p) => p.page.id), seams: [] });
	const order = proposeOrder(
		pages.map((p) => cluesOf(p.page, records[p.page.id]!)),
		rules.questions
	);
	const strip = order.strip.map((s) => s.page);
	const seams = proposeSeams(
		rules.questions,
		strip.map((page) => ({ page, reading: records[page]!.reading }))
	);
	const packet: Packet = {
		...EMPTY_PACKET,
		pages: Object.fromEntries(pages.map((p) => [p.page.id, p.page])),
		strip,
		tray: order.setAside.map(({ page, reason }) => ({ page, reason })),
		seams: seams.map(({ id, page, y, questions }) => ({ id, page, y, questions }))
	};
	return { packet, order, seams };
}

/** What is known of a page; on the command line nobody else's name is expected. */
function recordOf(prepared: Prepared): PageRecord {
	const { page, picture, facts, reading, takenAt, otherPerson, name, image, weights } = prepared;
	return {
		// Nothing is looked up here, so that a page's own id does for a key.
		key: page.id,
		picture,
		problem: null,
		prepared: facts,
		bytes: image.bytes.length,
		weights,
		reading,
		name,
		otherPerson,
		sourceName: page.source,
		takenAt
	};
}

function numberOf({ number }: PlacedPage) {
	return number && { number: number.number, of: number.of, confidence: number.confidence };
}

/** Words that begin with a capital at the top of a page without being a name. */
const HEADINGS =
	/^(page|question|worksheet|exercise|homework|assignment|name|date|class|course|part|figure|table|notes?|answers?)$/i;

/**
 * For each page, the name at its top when it is surely somebody else's: read well, no word of the assignment, and other
 * pages carry the person's own.
 */
function otherNames(names: readonly (NameReading | null)[], rules: RuleSheet): (string | null)[] {
	if (!names.some((n) => n?.person)) return names.map(() => null);
	const known = `${rules.title} ${rules.course ?? ''}`.toLowerCase().split(/\W+/);
	return names.map((name) => {
		if (!name || name.person || name.confidence < 0.7) return null;
		const words = name.text.split(' ');
		const isHeading = words.some((w) => HEADINGS.test(w) || known.includes(w.toLowerCase()));
		return isHeading ? null : name.text;
	});
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
