import { createHash } from 'node:crypto';
import { extname } from 'node:path';
import type { NamesOnPage } from '../src/lib/core/bundle/namePlaces';
import { turnOf } from '../src/lib/core/page/effective';
import { bookmarksOf } from '../src/lib/core/mapping/bookmarks';
import { withLabelsSettled } from '../src/lib/core/mapping/settleLabels';
import { proposeSeams } from '../src/lib/core/mapping/proposeSeams';
import { cluesOf } from '../src/lib/core/order/pageClues';
import { proposeOrder, type OrderProposal, type PlacedPage } from '../src/lib/core/order/proposeOrder';
import { manifestOf } from '../src/lib/core/packet/manifest';
import type { PageRecord } from '../src/lib/core/page/pageRecord';
import { EMPTY_PACKET, type Packet } from '../src/lib/core/packet/packet';
import type { RosterPerson } from '../src/lib/core/reading/personName';
import { check } from '../src/lib/core/check/check';
import { expectedFileName } from '../src/lib/core/rules/expectedFileName';
import type { Finding } from '../src/lib/core/rules/finding';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import { makePdf } from '../src/lib/server/codec/pdfOut';
import { zipPages } from '../src/lib/server/codec/zipOut';
import { makeSmaller } from './makeSmaller';
import type { Prepared } from './preparedPages';
import { writeWhole } from './writeWhole';

/**
 * Orders, maps, names and checks a packet, and writes it: its PDF or ZIP, and beside it what it holds as JSON.
 *
 * @param person with the name as it stands in the file
 * @param output path of the file; where its name ends in .zip, page images
 * @param namesOf where names stand on the pages, in their order, for whoever hides them later
 * @returns what the rules say, and the order and what was set aside; null where no page holds any writing
 */
export async function writePacket(
	found: readonly Prepared[],
	rules: RuleSheet,
	person: RosterPerson & { readonly full: string },
	output: string,
	namesOf?: (pages: readonly Prepared[]) => NamesOnPage[]
): Promise<{ findings: Finding[]; order: OrderProposal } | null> {
	const { packet: arranged, order, seams } = arrange(found, rules);
	const { pages, packet } = await makeSmaller(found, arranged, rules, evidence);
	const byId = new Map(pages.map((p) => [p.page.id, p]));
	const strip = packet.strip.map((id) => byId.get(id)!);

	if (strip.length === 0) return null;
	const names = new Map(namesOf?.(strip).map((n, i) => [strip[i]!.page.id, n]));
	const fileType = extname(output).toLowerCase() === '.zip' ? 'zip' : 'pdf';
	const fileName = packet.fileName ?? expectedFileName(rules, person);
	const file = fileType === 'zip' ? zipOf(strip, fileName) : await pdfOf(strip, packet, rules, person.full);
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
				...(names.has(id) ? { names: names.get(id)! } : {}),
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
	return { findings, order };
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

export function recordOf(prepared: Prepared): PageRecord {
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
