import Joi from 'joi';

/** What the stand-in is told to do wrong. All off is a portal that works. */
export interface Faults {
	/** Waits this long, in milliseconds, before it looks at what arrived. */
	readonly slow: number;
	/** Cuts the line after this many bytes of a file; null: does not. */
	readonly cutAt: number | null;
	/** Answers with this status; null: does its work. */
	readonly status: 500 | 503 | null;
	/** Takes the file, and cuts the line before it says so, also when it is asked whether the file came. */
	readonly loseAnswer: boolean;
	/** Refuses every file for this. */
	readonly refuse: 'size' | 'type' | null;
	/** Takes every assignment for past due. */
	readonly pastDue: boolean;
	/** How many more requests are struck; null: all, until it is turned off. */
	readonly times: number | null;
}

export const NO_FAULTS: Faults = {
	slow: 0,
	cutAt: null,
	status: null,
	loseAnswer: false,
	refuse: null,
	pastDue: false,
	times: null
};

const schema = Joi.object({
	slow: Joi.number().integer().min(0).max(120_000).default(0),
	cutAt: Joi.number().integer().min(0).max(100_000_000).allow(null).default(null),
	status: Joi.number().valid(500, 503, null).default(null),
	loseAnswer: Joi.boolean().truthy('on').default(false),
	refuse: Joi.string().valid('size', 'type', null).default(null),
	pastDue: Joi.boolean().truthy('on').default(false),
	times: Joi.number().integer().min(1).max(10_000).allow(null).default(null)
});

/** Checks what was asked for. @throws Joi.ValidationError */
export function parseFaults(value: Readonly<Record<string, unknown>>): Faults {
	// Fields of the panel that were left empty.
	const given = Object.entries(value).filter(([, v]) => v !== '');
	return Joi.attempt(Object.fromEntries(given), schema) as Faults;
}

/** The faults in force, used up as they strike. */
export class FaultSwitch {
	#faults: Faults = NO_FAULTS;

	get now(): Faults {
		return this.#faults;
	}

	set(faults: Faults): void {
		this.#faults = faults;
	}

	/** The faults that strike this request. */
	strike(): Faults {
		const faults = this.#faults;
		if (faults.times !== null) {
			const times = faults.times - 1;
			this.#faults = times > 0 ? { ...faults, times } : NO_FAULTS;
		}
		return faults;
	}
}
