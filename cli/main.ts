import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';

// Called from any folder: the processes of work are started from beside this file.
process.env.MEMBRANA_NODE_BUILD ??= dirname(fileURLToPath(import.meta.url));

/** Set before anything prints: standard output holds results only. */
const [, , command, ...rest] = process.argv;

/** Each command loads what it needs: what makes files takes longer to load than a page takes to look at. */
async function main(): Promise<number> {
	switch (command) {
		case 'inspect':
			return (await import('./inspect')).inspect(rest);
		case 'prepare':
			return (await import('./prepare')).prepareFiles(rest);
		case 'cut':
			return (await import('./cut')).cutStack(rest);
		case 'covers':
			return (await import('./covers')).printCovers(rest);
		case 'bundle':
			return (await import('./bundle')).bundleQuestions(rest);
		default:
			process.stderr.write('Use: membrana inspect …, prepare …, covers …, cut … or bundle …\n');
			return 1;
	}
}

try {
	process.exitCode = await main();
} catch (error) {
	process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
	process.exitCode = 1;
}
