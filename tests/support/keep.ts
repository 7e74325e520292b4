import { spawnSync } from 'node:child_process';

/** Runs `./membrana backup|restore|check` as built, on a data folder. */
export function keep(folder: string, args: readonly string[], more: NodeJS.ProcessEnv = {}) {
	const { status, stdout, stderr } = spawnSync(process.execPath, ['build-node/keep.js', ...args], {
		encoding: 'utf8',
		// A restore stood for a minute on a machine whose processors were others'.
		timeout: 270_000,
		env: { ...process.env, MEMBRANA_DATA: folder, ...more }
	});
	return { status, says: stdout + stderr };
}
