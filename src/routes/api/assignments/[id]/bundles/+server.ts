import { randomInt } from 'node:crypto';
import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { answerables } from '$lib/core/assignment/question';
import { ANSWER_ORDERS } from '$lib/core/bundle/codes';
import { AROUND, type BundleOptions } from '$lib/core/bundle/plan';
import { assignmentToTeach } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { beginBundle, bundleIds, bundlesOf } from '$lib/server/store/bundles';
import { sweepBundles } from '$lib/server/vault/sweep';
import { PRIORITY } from '$lib/server/work/kinds';

interface Wish {
	/** Null: a bag with everything. */
	readonly question: string | null;
	readonly options: Omit<BundleOptions, 'seed'> & { readonly seed?: string };
}

const body = Joi.object<Wish>({
	question: Joi.string().max(40).allow(null).required(),
	options: Joi.object({
		order: Joi.string()
			.valid(...ANSWER_ORDERS)
			.default('random'),
		seed: Joi.string().max(100),
		graders: Joi.number().integer().min(1).max(99).default(1),
		hidden: Joi.boolean().default(true),
		around: Joi.string()
			.valid(...AROUND)
			.default('unsure'),
		apart: Joi.boolean().default(false)
	}).default()
});

/** The bundles of an assignment, as far as they are made. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { assignment } = await assignmentToTeach(db, locals, params.id!);
	return json(await bundlesOf(db, assignment.id));
};

/** Begins to make one question's bundle, or the bag, in the place of the one before. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, queue, derived } = await services();
	const { assignment, me } = await assignmentToTeach(db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const { question, options } = value as Wish;
	const known = answerables(assignment.ruleSheet.questions).flatMap((q) => [q.id, q.question]);
	if (question !== null && !known.includes(question)) error(422, `There is no question ${question}.`);
	const seed = options.seed ?? String(randomInt(2 ** 47));
	const bundleId = await beginBundle(db, assignment.id, question, { ...options, seed }, me.id);
	await sweepBundles(derived, await bundleIds(db));
	await queue.add(
		question === null ? 'make-bag' : 'make-bundle',
		{ bundleId },
		{ priority: PRIORITY.waited }
	);
	return json(await bundlesOf(db, assignment.id));
};
