import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { bundleQuestions } from './bundle';
import { cutStack } from './cut';
import { inspect } from './inspect';
import { prepareFiles } from './prepare';

// Called from any folder: the processes of work are started from beside this file.
process.env.MEMBRANA_NODE_BUILD ??= dirname(fileURLToPath(import.meta.url));

/** Set before anything prints: standard output holds results only. */
const [, , command, ...rest] = process.argv;

async function main(): Promise<number> {
	switch (command) {
		case 'inspect':
			return inspect(rest);
		case 'prepare':
			return prepareFiles(rest);
		case 'cut':
			return cutStack(rest);
		case 'bundle':
			return bundleQuestions(rest);
		default:
			process.stderr.write('Use: membrana inspect …, prepare …, cut … or bundle …\n');
			return 1;
	}
}

try {
	process.exitCode = await main();
} catch (error) {
	process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
	process.exitCode = 1;
}
