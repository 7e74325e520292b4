import Joi from 'joi';
import { patternProblem } from '../naming/namePattern';
import { PAPER_SIZES } from '../sheet/paperSize';
import { TONES } from '../tone/tone';
import { answerables } from '../assignment/question';
import { RULES, type RuleSheet } from './ruleSheet';

const label = Joi.string()
	.trim()
	.pattern(/^[\p{L}\p{N}]{1,6}$/u)
	.messages({
		'string.pattern.base': '{#label} must be one to six letters or digits, without "Q" or brackets'
	});
// Joi's own isoDate() would rewrite it in UTC; the zone its author wrote in is shown to students.
const moment = Joi.string()
	.pattern(/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)$/)
	.custom((text: string, helpers) =>
		Number.isNaN(Date.parse(text)) ? helpers.error('string.pattern.base') : text
	)
	.messages({
		'string.pattern.base':
			'{#label} must be a date and time with a time zone, such as 2026-12-04T18:00:00+01:00'
	});
const marks = Joi.number().min(0).max(1000);

/** The documented JSON form of a rule sheet (docs/formats.md). */
export const ruleSheetSchema = Joi.object<RuleSheet>({
	title: Joi.string().trim().min(1).max(200).required(),
	course: Joi.string().trim().max(60).allow(''),
	due: moment,
	grace: Joi.number().integer().min(1).max(10_080),
	workUntil: moment,
	questions: Joi.array()
		.min(1)
		.max(60)
		.items(
			Joi.object({
				label: label.required(),
				marks,
				newPage: Joi.boolean(),
				parts: Joi.array()
					.max(26)
					.items(Joi.object({ label: label.required(), marks }))
			})
		)
		.required(),
	pages: Joi.object({
		min: Joi.number().integer().min(1).max(600),
		max: Joi.number().integer().min(1).max(600),
		size: Joi.string().valid(...Object.keys(PAPER_SIZES))
	}).custom((pages: { min?: number; max?: number }, helpers) =>
		pages.min && pages.max && pages.min > pages.max
			? helpers.message({ custom: '"pages": at least must not be more than at most' })
			: pages
	),
	file: Joi.object({
		namePattern: Joi.string()
			.trim()
			.max(120)
			.custom((pattern: string, helpers) => {
				const problem = patternProblem(pattern);
				// Passed as a value: Joi would take the braces of a token for its own.
				return problem ? helpers.message({ custom: '"file.namePattern": {#problem}' }, { problem }) : pattern;
			}),
		type: Joi.string().valid('pdf', 'zip'),
		maxBytes: Joi.number().integer().min(10_000).max(500_000_000)
	}),
	tone: Joi.array()
		.items(Joi.string().valid(...TONES))
		.min(1)
		.unique(),
	legibility: Joi.string().valid('doubtful', 'clear'),
	levels: Joi.object(Object.fromEntries(RULES.map((rule) => [rule, Joi.string().valid('blocks', 'look')])))
})
	.custom((sheet: RuleSheet, helpers) => {
		const { due, grace, workUntil } = sheet;
		if (grace && !due) {
			return helpers.message({ custom: '"grace": a grace period needs a due time' });
		}
		if (workUntil && !(due && Date.parse(workUntil) < Date.parse(due))) {
			return helpers.message({ custom: '"workUntil" must come before the due time' });
		}
		const seen = new Set<string>();
		for (const { id } of answerables(sheet.questions)) {
			if (seen.has(id)) {
				return helpers.message({ custom: `"questions": the label "${id}" is there twice` });
			}
			seen.add(id);
		}
		return sheet;
	})
	.label('rule sheet');

/** What is wrong with one field of a rule sheet. */
export interface RuleSheetProblem {
	readonly field: string;
	/** Names the field as whoever wrote the JSON knows it. */
	readonly message: string;
	/** The same as a sentence that stands beside the field. */
	readonly plain: string;
}

/** What is wrong with a rule sheet, field by field. */
export class RuleSheetError extends Error {
	constructor(readonly problems: readonly RuleSheetProblem[]) {
		super(`The rule sheet cannot be used: ${problems.map((p) => p.message).join('; ')}.`);
		this.name = 'RuleSheetError';
	}
}

/**
 * Checks what claims to be a rule sheet.
 * @throws RuleSheetError naming every field that is wrong
 */
export function parseRuleSheet(value: unknown): RuleSheet {
	const { value: sheet, error } = ruleSheetSchema.validate(value, {
		abortEarly: false,
		convert: true,
		errors: { wrap: { label: '"' } }
	});
	if (error) {
		throw new RuleSheetError(
			error.details.map((d) => ({
				field: d.path.join('.') || fieldIn(d.message),
				message: d.message,
				plain: plainly(d)
			}))
		);
	}
	return sheet;
}

/** Messages written for the whole sheet begin with the field in quotes. */
function fieldIn(message: string): string {
	return /^"([^"]+)"/.exec(message)?.[1] ?? '';
}

const EMPTY: readonly string[] = ['string.empty', 'any.required'];

function plainly({ type, message }: Joi.ValidationErrorItem): string {
	if (EMPTY.includes(type)) return 'This is needed.';
	const rest = message.replace(/^"[^"]+":? /, '');
	return `${rest[0]!.toUpperCase()}${rest.slice(1)}.`;
}
