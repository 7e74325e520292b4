import { resolve } from 'node:path';

/** A file of the build beside the web server's, which threads and processes of work are started from. */
export function nodeBuild(file: string): string {
	return resolve(process.env.MEMBRANA_NODE_BUILD ?? 'build-node', file);
}
