import { readFileSync } from 'node:fs';

/** What a process has used so far. */
export interface ProcessUse {
	readonly cpuSeconds: number;
	/** Memory that it holds now. */
	readonly megabytes: number;
}

/** Ticks a second in which Linux counts processor time for everybody (USER_HZ). */
const TICKS = 100;
const PAGE_BYTES = 4096;

/** Asked of the kernel (proc(5)); null where there is no such process, or no /proc. */
export function useOf(pid: number): ProcessUse | null {
	try {
		// The second field is the program's name in brackets, and may hold anything.
		const fields = readFileSync(`/proc/${pid}/stat`, 'latin1')
			.replace(/^.*\) /s, '')
			.split(' ');
		const pages = Number(readFileSync(`/proc/${pid}/statm`, 'latin1').split(' ')[1]);
		return {
			cpuSeconds: (Number(fields[11]) + Number(fields[12])) / TICKS,
			megabytes: (pages * PAGE_BYTES) / 1e6
		};
	} catch {
		return null;
	}
}
