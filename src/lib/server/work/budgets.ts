import type * as steps from './steps';

/** The heavy steps, by name. */
export type StepName = keyof typeof steps;

const WAITS = ['request', 'person', 'nobody'] as const;
export type Waits = (typeof WAITS)[number];

/** Whether the one goes before the other. */
export const goesBefore = (one: StepBudget, other: StepBudget): boolean =>
	WAITS.indexOf(one.waits) < WAITS.indexOf(other.waits);

export interface StepBudget {
	/** `pages` work side by side; the `reader` has processes of its own, since its models are large. */
	readonly lane: 'pages' | 'reader';
	/** Who waits for it: a request for its answer, a person for what the queue makes, or nobody. Goes in this order. */
	readonly waits: Waits;
	/** Seconds of processor time, summed over the process's threads. */
	readonly cpuSeconds: number;
	/** Megabytes that the whole process may hold, with its codecs or models loaded. */
	readonly megabytes: number;
}

const MEGABYTES = 2_500;
/** Machines differ: the seconds may be set larger or smaller all together. */
const SCALE = Number(process.env.MEMBRANA_BUDGET_SCALE ?? 1) || 1;
const pages = (cpuSeconds: number, waits: Waits = 'person'): StepBudget => ({
	lane: 'pages',
	waits,
	cpuSeconds: SCALE * cpuSeconds,
	megabytes: MEGABYTES
});
const reader = (cpuSeconds: number, waits: Waits = 'person'): StepBudget => ({
	lane: 'reader',
	waits,
	cpuSeconds: SCALE * cpuSeconds,
	megabytes: MEGABYTES
});

/**
 * What each step may use before its process is ended from outside: some twenty times of what ordinary pages need. Time is
 * the process's own, so that a busy machine ends nothing. A picture of the most pixels that are taken (codec/limits.ts)
 * fits in.
 */
export const BUDGETS: Readonly<Record<StepName, StepBudget>> = {
	takeIn: pages(20),
	pdfText: pages(20, 'request'),
	formFields: pages(20, 'request'),
	readRosterFile: pages(60, 'request'),
	unpack: pages(60),
	prepare: pages(30),
	flat: pages(30, 'request'),
	weigh: pages(60),
	makeFile: pages(240),
	matchNames: pages(60),
	check: pages(60),
	takeProposed: pages(60, 'request'),
	cutStack: pages(240),
	makeBundle: pages(600),
	makeBag: pages(600),
	filePage: pages(20, 'request'),
	lock: pages(30, 'request'),
	receipt: pages(20, 'request'),
	slips: pages(60, 'request'),
	covers: pages(60, 'request'),
	loadReader: reader(60),
	wholePicture: reader(400),
	detectOrientation: reader(120),
	lookAtText: reader(120),
	readText: reader(240, 'nobody'),
	namesLeft: reader(120)
};
