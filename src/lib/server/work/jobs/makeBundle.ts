import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { planBundle } from '../../../core/bundle/plan';
import type { Services } from '../../services/services';
import { assignmentById } from '../../store/assignments';
import {
	bundleById,
	settleBundle,
	type BundleFile,
	type BundleRow,
	type HiddenRow
} from '../../store/bundles';
import { bundlePath } from '../../vault/derived';
import { bundledPackets, hiddenNames, UnpreparedError, type BundledPacket } from '../bundleParts';
import type { Handler } from '../kinds';

/** Makes one question's answers of a class into files; or stops where somebody should look through names first. */
export const makeBundle = (services: Services): Handler<'make-bundle'> => ({
	async run({ bundleId }) {
		const bundle = await bundleById(services.db, bundleId);
		if (!bundle || bundle.state !== 'making') return;
		try {
			await make(services, bundle);
		} catch (error) {
			if (!(error instanceof UnpreparedError)) throw error;
			const problem = `${error.message} Wait a moment, and make it again.`;
			await settleBundle(services.db, bundleId, { state: 'failed', problem });
		}
	},
	failed: ({ bundleId }, problem) =>
		settleBundle(services.db, bundleId, { state: 'failed', problem: `It could not be made. ${problem}` })
});

async function make(services: Services, bundle: BundleRow): Promise<void> {
	const { db, pool, derived } = services;
	const { id, options } = bundle;
	const question = bundle.question!;
	const assignment = (await assignmentById(db, bundle.assignmentId))!;
	const plan = planBundle(question, await bundledPackets(services, assignment), options);
	const hidden = new Map<BundledPacket, Map<number, HiddenRow>>();
	let look = 0;
	if (options.hidden) {
		for (const { packet, cutOuts } of plan.files.flatMap((f) => f.answers)) {
			const positions = [...new Set(cutOuts.map((c) => c.position))];
			const rows = await hiddenNames(services, assignment, packet, positions);
			hidden.set(packet, rows);
			look += [...rows.values()].filter((r) => r.look !== null && !r.isConfirmed).length;
		}
	}
	if (look > 0) return settleBundle(db, id, { state: 'unsure', look });
	const files: BundleFile[] = [];
	const heading = ({ code, row }: BundledPacket) => (options.hidden ? code : `${row.family}, ${row.given}`);
	await mkdir(bundlePath(derived, id), { recursive: true });
	for (const [i, { name, answers }] of plan.files.entries()) {
		const out = join(bundlePath(derived, id), name);
		const made = await pool.run('makeBundle', {
			question: `Question ${question}`,
			title: assignment.ruleSheet.title,
			without: i === plan.files.length - 1 ? plan.without.map(heading) : [],
			apart: options.apart,
			created: new Date().toISOString(),
			out,
			answers: answers.map(({ packet, cutOuts }) => ({
				heading: heading(packet),
				cutOuts: cutOuts.map((piece) => ({
					...piece,
					page: packet.pageAt(piece.position),
					hide: hidden.get(packet)?.get(piece.position)?.boxes ?? []
				}))
			}))
		});
		if (!made.ok) {
			await rm(bundlePath(derived, id), { recursive: true, force: true });
			return settleBundle(db, id, { state: 'failed', problem: made.problem });
		}
		const { bytes, sha256, begins } = made;
		const where = answers.map(({ packet }, k) => ({ code: packet.code, page: begins[k]! }));
		files.push({ name, bytes, sha256, answers: where });
	}
	await settleBundle(db, id, { state: 'ready', files, without: plan.without.map((p) => p.code) });
}
