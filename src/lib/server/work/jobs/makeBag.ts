import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { csvFormat } from 'd3-dsv';
import { boardTable } from '../../../core/board/boardTable';
import { uniqueNames } from '../../../core/bundle/bag';
import { manifestRows } from '../../../core/packet/manifest';
import { asCells } from '../../../core/text/csvCells';
import type { BagContent } from '../../codec/bagOut';
import type { Services } from '../../services/services';
import { assignmentById, ruleSheetOf, type Assignment } from '../../store/assignments';
import { bundleById, bundlesOf, codedPackets, settleBundle } from '../../store/bundles';
import { deliveriesOf, fileById } from '../../store/deliveries';
import { packetById } from '../../store/packets';
import { personById } from '../../store/people';
import { schoolOf } from '../../store/school';
import { bundlePath } from '../../vault/derived';
import { boardView } from '../../view/boardView';
import { fileManifest } from '../../view/fileManifest';
import type { Handler } from '../kinds';

/** Packs everything of an assignment into one bag: what was handed in, bundles, receipts, rule sheet, board. */
export const makeBag = (services: Services): Handler<'make-bag'> => ({
	async run({ bundleId }) {
		const { db, pool, derived } = services;
		const bag = await bundleById(db, bundleId);
		if (!bag || bag.state !== 'making') return;
		const assignment = (await assignmentById(db, bag.assignmentId))!;
		const { title } = assignment.ruleSheet;
		const [folder] = uniqueNames([`${assignment.courseCode} ${title}`.trim()]);
		const name = `${folder}.zip`;
		await mkdir(bundlePath(derived, bag.id), { recursive: true });
		const made = await pool.run('makeBag', {
			out: join(bundlePath(derived, bag.id), name),
			name: folder!,
			contents: await contentsOf(services, assignment),
			info: {
				source: (await schoolOf(db))?.name ?? 'Membrana',
				description: `${title} (${assignment.courseCode})`,
				made: new Date().toISOString()
			}
		});
		await settleBundle(db, bag.id, { state: 'ready', files: [{ name, ...made, answers: [] }], without: [] });
	},
	failed: ({ bundleId }, problem) =>
		settleBundle(services.db, bundleId, { state: 'failed', problem: `It could not be packed. ${problem}` })
});

async function contentsOf(services: Services, assignment: Assignment): Promise<BagContent[]> {
	const { db, vault, derived } = services;
	const coded = await codedPackets(db, assignment.id);
	const contents: BagContent[] = [
		{ path: 'rule-sheet.json', text: json(ruleSheetOf(assignment)) },
		{ path: 'board.csv', text: table(boardTable(await boardView(db, assignment))) },
		{
			path: 'codes.csv',
			text: table(
				coded.map((c) => ({
					code: c.code,
					sourcedId: c.identifier ?? '',
					givenName: c.given,
					familyName: c.family
				}))
			)
		}
	];
	const handedIn = [];
	for (const { packetId, personId } of coded) {
		const delivery = (await deliveriesOf(db, packetId)).find((d) => d.state === 'received');
		const file = delivery && (await fileById(db, delivery.fileId));
		if (delivery && file?.sha256) handedIn.push({ packetId, personId, delivery, file });
	}
	const names = uniqueNames(handedIn.map(({ file }) => `${file.name}.${file.type}`));
	for (const [i, { packetId, personId, delivery, file }] of handedIn.entries()) {
		const path = `packets/${names[i]!}`;
		contents.push({ path, file: vault.pathOf(file.sha256!) });
		contents.push({ path: `${path}.receipt.json`, text: json(delivery.receipt) });
		const packet = (await packetById(db, packetId))!;
		// A manifest is of the pages as they were handed in: of a packet that was changed since there is none.
		if (packet.version !== file.packetVersion) continue;
		const owner = (await personById(db, personId))!;
		const manifest = await fileManifest(db, { packet, assignment, owner, me: owner, as: 'owner' }, file);
		contents.push({ path: `${path}.manifest.json`, text: json(manifest) });
		contents.push({ path: `${path}.manifest.csv`, text: table(manifestRows(manifest)) });
	}
	for (const bundle of await bundlesOf(db, assignment.id)) {
		if (bundle.question === null || bundle.state !== 'ready') continue;
		for (const { name } of bundle.files) {
			contents.push({ path: `bundles/${name}`, file: join(bundlePath(derived, bundle.id), name) });
		}
	}
	return contents;
}

function table(rows: readonly object[]): string {
	return `${csvFormat(rows.map((row) => asCells(row)))}\n`;
}

function json(value: unknown): string {
	return `${JSON.stringify(value, null, '\t')}\n`;
}
