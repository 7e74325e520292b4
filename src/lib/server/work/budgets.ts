import type * as steps from './steps';

/** The heavy steps, by name. */
export type StepName = keyof typeof steps;

export interface StepBudget {
	/** `pages` work side by side; the `reader` has processes of its own, since its models are large. */
	readonly lane: 'pages' | 'reader';
	/** Somebody waits for the answer of a request: goes before what the queue asks for. */
	readonly urgent: boolean;
	/** Seconds of processor time, summed over the process's threads. */
	readonly cpuSeconds: number;
	/** Megabytes that the whole process may hold, with its codecs or models loaded. */
	readonly megabytes: number;
}

const MEGABYTES = 2_500;
/** Machines differ: the seconds may be set larger or smaller all together. */
const SCALE = Number(process.env.MEMBRANA_BUDGET_SCALE ?? 1) || 1;
const pages = (cpuSeconds: number, urgent = false): StepBudget => ({
	lane: 'pages',
	urgent,
	cpuSeconds: SCALE * cpuSeconds,
	megabytes: MEGABYTES
});
const reader = (cpuSeconds: number): StepBudget => ({
	lane: 'reader',
	urgent: false,
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
	pdfText: pages(20, true),
	formFields: pages(20, true),
	readRosterFile: pages(60, true),
	unpack: pages(60),
	prepare: pages(30),
	flat: pages(30, true),
	weigh: pages(60),
	makeFile: pages(240),
	matchNames: pages(60),
	check: pages(60),
	takeProposed: pages(60, true),
	cutStack: pages(240),
	makeBundle: pages(600),
	makeBag: pages(600),
	filePage: pages(20, true),
	lock: pages(30, true),
	receipt: pages(20, true),
	slips: pages(60, true),
	covers: pages(60, true),
	loadReader: reader(60),
	wholePicture: reader(400),
	detectOrientation: reader(120),
	lookAtText: reader(120),
	readText: reader(240),
	namesLeft: reader(120)
};
