import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
	interface ProvidedContext {
		/** Where the data folder that HTTP tests copy is made, by the first that wants it. */
		seededFolder: string;
	}
}

/** Gives a run a folder of its own for all that tests and what they start put down, and sweeps it away afterwards. */
export default async function provideFolder(project: TestProject): Promise<() => Promise<void>> {
	const folder = await mkdtemp(join(tmpdir(), 'membrana-tests-'));
	// PostgreSQL's server runs as a person of its own, and has its folder in here.
	await chmod(folder, 0o711);
	process.env.TMPDIR = folder;
	project.provide('seededFolder', join(folder, 'seeded'));
	return () => rm(folder, { recursive: true, force: true, maxRetries: 3 });
}
