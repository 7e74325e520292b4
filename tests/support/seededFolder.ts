import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
	interface ProvidedContext {
		/** Where the data folder that HTTP tests copy is made, by the first that wants it. */
		seededFolder: string;
	}
}

/** Gives a run a folder of its own, and sweeps it away afterwards. */
export default async function provideFolder(project: TestProject): Promise<() => Promise<void>> {
	const folder = await mkdtemp(join(tmpdir(), 'membrana-seeded-'));
	project.provide('seededFolder', join(folder, 'data'));
	return () => rm(folder, { recursive: true, force: true });
}
