import { readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import Joi from 'joi';
import type { MappedQuestion } from '../src/lib/core/bundle/cutOuts';
import type { NamesOnPage } from '../src/lib/core/bundle/namePlaces';
import { NAMED } from '../src/lib/core/stack/heaps';

/** Somebody of the class, as `cut` was given them. */
export interface CutPerson {
	readonly sourcedId: string;
	readonly givenName: string;
	readonly familyName: string;
}

/** A packet that `cut` wrote. */
export interface CutPacket {
	/** Name of its PDF in the folder. */
	readonly file: string;
	readonly person: CutPerson | null;
	readonly map: readonly MappedQuestion[];
	/** What is known of the names on each page; null where the page was never looked at for them. */
	readonly names: readonly (NamesOnPage | null)[];
}

export interface CutFolder {
	readonly title: string;
	readonly course?: string;
	readonly questions: readonly string[];
	readonly people: readonly CutPerson[];
	readonly packets: readonly CutPacket[];
}

const fraction = Joi.number().min(0).max(1);
const text = Joi.string().allow('').max(400);
const fileName = text.custom((name: string, helpers) =>
	name === basename(name) && /\.pdf$/i.test(name) ? name : helpers.error('any.invalid')
);
const cutsSchema = Joi.object({
	assignment: Joi.object({
		title: text.required(),
		course: text,
		questions: Joi.array().items(text).required()
	}).required(),
	people: Joi.array()
		.items(
			Joi.object({ sourcedId: text.required(), givenName: text.required(), familyName: text.required() })
		)
		.required(),
	packets: Joi.array()
		.items(
			Joi.object({
				person: Joi.object({ sourcedId: text.required(), confidence: fraction.required() })
					.unknown()
					.allow(null)
					.required(),
				file: fileName.required()
			}).unknown()
		)
		.required()
}).unknown();

const packetSchema = Joi.object({
	pages: Joi.array()
		.items(
			Joi.object({
				names: Joi.object({
					places: Joi.array()
						.items(
							Joi.object({ box: Joi.array().items(fraction).length(4).required(), confidence: fraction })
						)
						.required(),
					doubtful: Joi.array().items(Joi.array().items(fraction).length(4)).default([]),
					look: text.allow(null).required()
				})
			}).unknown()
		)
		.required(),
	map: Joi.array()
		.items(
			Joi.object({
				question: text.required(),
				stretches: Joi.array()
					.items(
						Joi.object({
							position: Joi.number().integer().min(1).required(),
							top: fraction.required(),
							bottom: fraction.required()
						})
					)
					.required(),
				confidence: fraction.required()
			})
		)
		.required()
}).unknown();

/**
 * Reads what `membrana cut` wrote.
 * @throws Error with a sentence that says what is wrong with the folder
 */
export async function readCutFolder(folder: string): Promise<CutFolder> {
	const cuts = await readJson(join(folder, 'cuts.json'), cutsSchema);
	const { assignment, people } = cuts as {
		assignment: Omit<CutFolder, 'people' | 'packets'>;
		people: CutPerson[];
	};
	const packets = [];
	for (const { person, file } of cuts.packets as {
		person: { sourcedId: string; confidence: number } | null;
		file: string;
	}[]) {
		const path = join(folder, `${file.slice(0, -'.pdf'.length)}.json`);
		const { map, pages } = (await readJson(path, packetSchema)) as {
			map: MappedQuestion[];
			pages: { names?: NamesOnPage }[];
		};
		packets.push({
			file,
			// Who is only guessed is nobody's.
			person:
				people.find((p) => person && person.confidence >= NAMED && p.sourcedId === person.sourcedId) ?? null,
			map,
			names: pages.map((p) => p.names ?? null)
		});
	}
	return { ...assignment, people, packets };
}

async function readJson(path: string, schema: Joi.ObjectSchema): Promise<Record<string, unknown>> {
	const bytes = await readFile(path, 'utf8').catch(() => {
		throw new Error(`${path} cannot be read. Give the folder that membrana cut wrote.`);
	});
	let value: unknown;
	try {
		value = JSON.parse(bytes);
	} catch {
		throw new Error(`${path} is no JSON. Run membrana cut again.`);
	}
	const { error, value: good } = schema.validate(value, { convert: false });
	if (error) throw new Error(`${path} is not as membrana cut writes it: ${error.message}. Run it again.`);
	return good as Record<string, unknown>;
}
