import {
	knownInHeaders,
	namesInPacket,
	namesOnPage,
	withNamesLeft,
	type NamesOnPage
} from '../../core/bundle/namePlaces';
import type { CodedPacket } from '../../core/bundle/plan';
import { unnamed } from '../../core/bundle/unnamed';
import { piecesByQuestion, stretchesOf, withoutHeaders } from '../../core/mapping/stretches';
import { addedTo } from '../../core/page/effective';
import { usualTone } from '../../core/tone/usualTone';
import type { PageToCut } from '../codec/cutOut';
import type { Services } from '../services/services';
import { ruleSheetOf, type Assignment } from '../store/assignments';
import { codedPackets, hiddenOn, keepHidden, type CodedRow, type HiddenRow } from '../store/bundles';
import type { StoredPage } from '../store/pageRecords';
import { packetById } from '../store/packets';
import { studentsOf } from '../store/courses';
import { preparedPaths } from '../vault/derived';
import { wholePages } from './wholePages';

/** Milliseconds: names are looked for in the whole text. */
const WAIT_FOR_TEXT = 600_000;

/** A packet that bundles are made of. */
export interface BundledPacket extends CodedPacket {
	readonly row: CodedRow;
	/** On the strip, in sequence. */
	readonly pages: readonly StoredPage[];
	readonly pageAt: (position: number) => PageToCut;
}

/** The packets of an assignment's class with their maps, in the order of the roster. */
export async function bundledPackets(services: Services, assignment: Assignment): Promise<BundledPacket[]> {
	const { db, derived } = services;
	const usual = usualTone(assignment.ruleSheet);
	const found: BundledPacket[] = [];
	for (const row of await codedPackets(db, assignment.id)) {
		const packet = (await packetById(db, row.packetId))!;
		const records = await wholePages(services, packet, assignment, WAIT_FOR_TEXT);
		const pages = packet.state.strip.flatMap((id) => records[id] ?? []);
		// A page that is not prepared yet would be missing without a word.
		if (pages.length < packet.state.strip.length || pages.some((p) => !p.prepared)) {
			throw new UnpreparedError(`${row.given} ${row.family}’s pages are not all prepared yet.`);
		}
		const stretches = withoutHeaders(stretchesOf(packet.state), (id) => records[id]?.reading?.lines ?? null);
		found.push({
			row,
			code: row.code,
			pages,
			map: [...piecesByQuestion(stretches)].map(([question, pieces]) => ({
				question,
				stretches: pieces.map(({ position, top, bottom }) => ({ position, top, bottom })),
				// A person has said so.
				confidence: 1
			})),
			pageAt(position) {
				const { page, key, picture, prepared, reading } = pages[position - 1]!;
				const tone = (page.tone ?? usual).name;
				return {
					kind: 'image',
					path: preparedPaths(derived, key, tone).view,
					dotsPerInch: prepared!.dotsPerInch,
					text: reading?.lines ?? [],
					added: unnamed(addedTo(page, { picture, prepared }), row, prepared!.height)
				};
			}
		});
	}
	return found;
}

/** A sentence for the person: what a bundle waits for. */
export class UnpreparedError extends Error {}

/**
 * Where names are hidden on the pages of a packet: what is known already, and for the rest what is read on them, and what
 * is still read once that is hidden.
 *
 * @param positions from 1
 */
export async function hiddenNames(
	{ db, pool }: Pick<Services, 'db' | 'pool'>,
	assignment: Assignment,
	{ row, pages, pageAt }: BundledPacket,
	positions: readonly number[]
): Promise<Map<number, HiddenRow>> {
	const known = new Map((await hiddenOn(db, row.packetId)).map((h) => [h.pageId, h]));
	const isKnown = (page: StoredPage) => known.get(page.page.id)?.key === page.key;
	if (!positions.every((p) => isKnown(pages[p - 1]!))) {
		const roster = await studentsOf(db, assignment.courseId);
		const sheet = ruleSheetOf(assignment);
		const names = namesInPacket(pages.map((p) => namesOnPage(p.reading, roster, row, knownInHeaders(sheet))));
		const stillRead = async (position: number, first: NamesOnPage) => {
			if (first.look === 'not-read') return [];
			const hide = first.places.map((p) => p.box);
			const left = await pool.run('namesLeft', { page: pageAt(position), hide, roster, writer: row });
			if (!left.ok) throw new Error(left.problem);
			return left.places;
		};
		await Promise.all(
			positions.map(async (position) => {
				const page = pages[position - 1]!;
				if (isKnown(page)) return;
				const first = names[position - 1]!;
				const { places, doubtful, look } = withNamesLeft(first, await stillRead(position, first));
				await keepHidden(db, {
					packetId: row.packetId,
					pageId: page.page.id,
					key: page.key,
					boxes: places.map((p) => p.box),
					doubtful,
					look
				});
			})
		);
	}
	const now = new Map((await hiddenOn(db, row.packetId)).map((h) => [h.pageId, h]));
	return new Map(positions.map((p) => [p, now.get(pages[p - 1]!.page.id)!]));
}
