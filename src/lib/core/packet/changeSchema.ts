import Joi from 'joi';
import { MARK_COLOURS, MARK_LIMITS, type Mark, type Stroke } from '../marks/mark';
import { TONES } from '../tone/tone';
import type { Change } from './change';
import { PACKET_LIMITS } from './limits';
import { RULES } from '../rules/ruleSheet';
import { LONGEST_NOTE, PROOFREAD_VERDICTS, TRAY_REASONS } from './packet';

const id = Joi.string().min(1).max(64);
const coordinate = Joi.number().min(-100_000).max(100_000);
const index = Joi.number().integer().min(0).max(10_000);
const corners = Joi.array().length(4).items(Joi.array().length(2).items(coordinate)).allow(null);
const turn = Joi.number().valid(0, 90, 180, 270).allow(null);
const kind = (name: Change['kind']) => Joi.string().valid(name).required();

const place = Joi.alternatives(
	Joi.object({ on: Joi.string().valid('strip').required(), index: index.required() }),
	Joi.object({
		on: Joi.string().valid('tray').required(),
		index: index.required(),
		reason: Joi.string()
			.valid(...TRAY_REASONS)
			.required()
	})
);

const colour = Joi.string().valid(...MARK_COLOURS);
const within = ([least, most]: readonly [number, number]) => Joi.number().min(least).max(most);
const stroke = (name: Stroke['kind']) =>
	Joi.object({
		id: id.required(),
		kind: Joi.string().valid(name).required(),
		colour: colour.required(),
		width: within(MARK_LIMITS.width[name]).required(),
		points: Joi.array()
			.min(1)
			.max(MARK_LIMITS.points)
			.items(
				Joi.array().ordered(
					coordinate.required(),
					coordinate.required(),
					Joi.number().min(0).max(1).required()
				)
			)
			.required()
	});
const marks: Readonly<Record<Mark['kind'], Joi.ObjectSchema>> = {
	pen: stroke('pen'),
	marker: stroke('marker'),
	words: Joi.object({
		id: id.required(),
		kind: Joi.string().valid('words').required(),
		colour: colour.required(),
		size: within(MARK_LIMITS.size).required(),
		at: Joi.array().length(2).items(coordinate).required(),
		text: Joi.string().min(1).max(MARK_LIMITS.letters).required()
	}),
	strip: Joi.object({
		id: id.required(),
		kind: Joi.string().valid('strip').required(),
		corners: Joi.array().length(4).items(Joi.array().length(2).items(coordinate)).required()
	})
};
const markSchema = Joi.alternatives(...Object.values(marks));

const edits: Partial<Record<Change['kind'], Joi.ObjectSchema>> = {
	setCorners: Joi.object({
		kind: kind('setCorners'),
		page: id.required(),
		corners: corners.required()
	}),
	setTurn: Joi.object({
		kind: kind('setTurn'),
		page: id.required(),
		turn: turn.required()
	}),
	setTone: Joi.object({
		kind: kind('setTone'),
		page: id.required(),
		tone: Joi.object({
			name: Joi.string()
				.valid(...TONES)
				.required(),
			evenLight: Joi.boolean().required(),
			inkWeight: Joi.number().min(-2).max(2).required(),
			brightness: Joi.number().min(-2).max(2),
			contrast: Joi.number().min(-2).max(2)
		})
			.allow(null)
			.required()
	}),
	setEncoding: Joi.object({
		kind: kind('setEncoding'),
		page: id.required(),
		encoding: Joi.object({
			dotsPerInch: Joi.number().integer().min(50).max(600).required(),
			quality: Joi.number().integer().min(10).max(100).required()
		})
			.allow(null)
			.required()
	}),
	// Only pictures that the packet has brought in, which the server looks up.
	setPicture: Joi.object({
		kind: kind('setPicture'),
		page: id.required(),
		picture: Joi.object({
			source: id.required(),
			sourcePage: index.required(),
			half: Joi.number().valid(0, 1),
			corners: corners.required(),
			turn: turn.required()
		}).required()
	}),
	split: Joi.object({
		kind: kind('split'),
		page: id.required(),
		first: Joi.number().valid(0, 1).required(),
		second: id.required()
	}),
	join: Joi.object({ kind: kind('join'), page: id.required() }),
	setProofread: Joi.object({
		kind: kind('setProofread'),
		page: id.required(),
		proofread: Joi.object({
			verdict: Joi.string()
				.valid(...PROOFREAD_VERDICTS)
				.required(),
			seen: Joi.string().max(80).required()
		})
			.allow(null)
			.required()
	}),
	setNumber: Joi.object({
		kind: kind('setNumber'),
		page: id.required(),
		number: Joi.alternatives(Joi.number().integer().min(1).max(999), Joi.valid(null, 'as-read')).required()
	}),
	setLevel: Joi.object({ kind: kind('setLevel'), page: id.required(), level: Joi.boolean().required() }),
	setOwn: Joi.object({
		kind: kind('setOwn'),
		pages: Joi.array().items(id).min(1).max(PACKET_LIMITS.pages).unique().required(),
		own: Joi.boolean().required()
	}),
	setMark: Joi.object({
		kind: kind('setMark'),
		page: id.required(),
		mark: markSchema.required(),
		at: index
	}),
	removeMark: Joi.object({ kind: kind('removeMark'), page: id.required(), mark: id.required() }),
	setNotesApart: Joi.object({ kind: kind('setNotesApart'), apart: Joi.boolean().required() }),
	place: Joi.object({ kind: kind('place'), page: id.required(), to: place.required() }),
	setSeam: Joi.object({
		kind: kind('setSeam'),
		seam: Joi.object({
			id: id.required(),
			page: id.required(),
			y: Joi.number().min(0).max(1).required(),
			questions: Joi.array()
				.items(Joi.string().max(20))
				.max(PACKET_LIMITS.questionsOfSeam)
				.unique()
				.required()
		}).required()
	}),
	removeSeam: Joi.object({ kind: kind('removeSeam'), seam: id.required() }),
	setAttempted: Joi.object({
		kind: kind('setAttempted'),
		question: Joi.string().max(20).required(),
		attempted: Joi.boolean().required()
	}),
	setFileName: Joi.object({
		kind: kind('setFileName'),
		name: Joi.string().max(200).allow(null, '').required()
	}),
	setNote: Joi.object({
		kind: kind('setNote'),
		rule: Joi.string()
			.valid(...RULES)
			.required(),
		note: Joi.string().trim().min(1).max(LONGEST_NOTE).allow(null).required()
	}),
	setCut: Joi.object({
		kind: kind('setCut'),
		page: id.required(),
		person: Joi.string().uuid().allow(null).required()
	}),
	removeCut: Joi.object({ kind: kind('removeCut'), page: id.required() }),
	setDeclined: Joi.object({
		kind: kind('setDeclined'),
		key: Joi.string().max(200).required(),
		declined: Joi.boolean().required()
	})
};

/** Chosen by its kind, so that one schema is asked and not all of them. */
const schemaOf = (kinds: Partial<Record<Change['kind'], Joi.Schema>>) =>
	Joi.alternatives().conditional('.kind', {
		switch: Object.entries(kinds).map(([is, then]) => ({ is, then })),
		otherwise: Joi.object({
			kind: Joi.string()
				.valid(...Object.keys(kinds))
				.required()
		}).unknown()
	});

/** The edits a person may send; adding and removing pages is the server's own. */
export const changeSchema = schemaOf({
	...edits,
	together: Joi.object({
		kind: kind('together'),
		changes: Joi.array().min(1).max(2000).items(schemaOf(edits)).required()
	})
}).required();
