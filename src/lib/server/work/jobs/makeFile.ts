import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { bookmarksOf } from '../../../core/mapping/bookmarks';
import { addedTo } from '../../../core/page/effective';
import { usualTone } from '../../../core/tone/usualTone';
import { packetChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { assignmentById } from '../../store/assignments';
import { failFile, fileById, finishFile } from '../../store/deliveries';
import { packetById } from '../../store/packets';
import { personById } from '../../store/people';
import { preparedPaths } from '../../vault/derived';
import type { Handler } from '../kinds';
import { wholePages } from '../wholePages';

/** Makes the one file of a packet, as it is handed in. */
export const makeFile = (services: Services): Handler<'make-file'> => ({
	run: ({ fileId }) => make(services, fileId),
	failed: ({ fileId }, problem) => giveUp(services, fileId, problem)
});

async function make(services: Services, fileId: string): Promise<void> {
	const { db, pool, vault, derived } = services;
	const file = await fileById(db, fileId);
	if (!file || file.state !== 'making') return;
	const packet = await packetById(db, file.packetId);
	if (!packet) return;
	const fail = async (problem: string) => {
		await failFile(db, fileId, problem);
		packetChanged(file.packetId);
	};
	const changed = () => fail('The packet was changed while its file was being made. Make it again.');
	if (packet.version !== file.packetVersion) return changed();
	const assignment = (await assignmentById(db, packet.assignmentId))!;
	const owner = (await personById(db, packet.personId))!;
	const pages = await wholePages(services, packet, assignment, WAIT_FOR_TEXT);
	const usual = usualTone(assignment.ruleSheet);
	const strip = packet.state.strip.flatMap((id) => pages[id] ?? []);
	if (strip.length < packet.state.strip.length) return changed();
	const broken = strip.findIndex((p) => !p.prepared && p.problem);
	if (broken >= 0) {
		return fail(`Page ${broken + 1} cannot be prepared. Bring it in again, or set it aside.`);
	}
	const waiting = strip.findIndex((p) => !p.prepared);
	if (waiting >= 0) return fail(`Page ${waiting + 1} is not ready yet. Wait a moment and try again.`);
	const out = join(derived, `${fileId}.made`);
	const made = await pool.run('makeFile', {
		type: file.type,
		out,
		name: file.name,
		title: `${assignment.ruleSheet.title}, ${owner.given} ${owner.family}`,
		author: `${owner.given} ${owner.family}`,
		subject: `${assignment.courseCode} ${assignment.courseTitle}`,
		language: assignment.courseLanguage,
		created: new Date().toISOString(),
		bookmarks: bookmarksOf(packet.state),
		notesApart: packet.state.notesApart ?? false,
		pages: strip.map(({ page, key, picture, prepared, reading }) => {
			const tone = page.tone ?? usual;
			const paths = preparedPaths(derived, key, tone.name);
			return {
				image: paths.image,
				view: paths.view,
				tone: tone.name,
				width: prepared!.width,
				height: prepared!.height,
				dotsPerInch: prepared!.dotsPerInch,
				encoding: page.encoding,
				text: reading?.lines ?? [],
				added: addedTo(page, { picture, prepared })
			};
		})
	});
	const kept = await vault.put(out);
	await rm(out, { force: true });
	if (kept.sha256 !== made.sha256) throw new Error('The file changed between making and keeping it.');
	await finishFile(db, fileId, { ...made, pages: strip.length });
	packetChanged(file.packetId);
}

/** Milliseconds that a file waits for the whole text of its pages; what is not known then is left out of it. */
const WAIT_FOR_TEXT = 20_000;

async function giveUp(services: Services, fileId: string, problem: string): Promise<void> {
	const file = await fileById(services.db, fileId);
	if (!file || file.state !== 'making') return;
	await failFile(services.db, fileId, `The file could not be made. ${problem} Try again.`);
	packetChanged(file.packetId);
}
