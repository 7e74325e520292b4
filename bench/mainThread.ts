import type { Browser, Page } from '@playwright/test';

/** What one thread of a browser did without a pause. */
interface Task {
	/** Milliseconds of processor time: what a busy machine makes it wait is no fault of the page. */
	readonly cpu: number;
	/** Milliseconds by the clock. */
	readonly clock: number;
}

interface TraceEvent {
	readonly name: string;
	readonly ph: string;
	readonly pid: number;
	readonly tid: number;
	readonly dur?: number;
	readonly tdur?: number;
	readonly args?: { readonly name?: string };
}

/** The tasks of a page's main thread while something is done. */
export async function tasksDuring(browser: Browser, page: Page, does: () => Promise<void>): Promise<Task[]> {
	await browser.startTracing(page, {
		categories: ['toplevel', '__metadata', 'disabled-by-default-devtools.timeline']
	});
	await does();
	const { traceEvents } = JSON.parse((await browser.stopTracing()).toString('utf8')) as {
		traceEvents: readonly TraceEvent[];
	};
	const renderers = new Set(
		traceEvents
			.filter((e) => e.ph === 'M' && e.name === 'thread_name' && e.args?.name === 'CrRendererMain')
			.map((e) => `${e.pid} ${e.tid}`)
	);
	return traceEvents
		.filter((e) => /RunTask$/.test(e.name) && e.ph === 'X' && renderers.has(`${e.pid} ${e.tid}`))
		.map((e) => ({ cpu: (e.tdur ?? 0) / 1000, clock: (e.dur ?? 0) / 1000 }));
}
