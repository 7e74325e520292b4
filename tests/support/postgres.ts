import { execFileSync } from 'node:child_process';
import { chmodSync, chownSync, existsSync, mkdirSync, mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Debian's PostgreSQL, in a folder and on a port of its own. It is nobody's but the test's. */
export class TestPostgres {
	readonly url: string;
	readonly #bin: string;
	readonly #folder: string;

	constructor(readonly port: number) {
		const versions = readdirSync('/usr/lib/postgresql').sort((a, b) => Number(b) - Number(a));
		this.#bin = join('/usr/lib/postgresql', versions[0]!, 'bin');
		const root = mkdtempSync(join(tmpdir(), 'membrana-postgres-'));
		this.#folder = join(root, 'data');
		mkdirSync(this.#folder);
		if (isRoot()) {
			// PostgreSQL does not run as root.
			const id = Number(execFileSync('id', ['-u', 'postgres'], { encoding: 'utf8' }));
			for (const folder of [root, this.#folder]) chownSync(folder, id, id);
			chmodSync(root, 0o755);
		}
		this.#run('initdb', '-D', this.#folder, '-U', 'membrana', '--auth=trust', '--no-sync');
		this.url = `postgres://membrana@127.0.0.1:${port}/postgres`;
	}

	start(): void {
		const options = `-p ${this.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''`;
		this.#run('pg_ctl', '-D', this.#folder, '-w', '-l', `${this.#folder}.log`, '-o', options, 'start');
	}

	/** @param how `immediate` is a crash, `fast` cuts every line */
	stop(how: 'fast' | 'immediate'): void {
		if (!existsSync(join(this.#folder, 'postmaster.pid'))) return;
		this.#run('pg_ctl', '-D', this.#folder, '-w', '-m', how, 'stop');
	}

	#run(command: string, ...rest: string[]): void {
		const path = join(this.#bin, command);
		const [program, args] = isRoot() ? ['runuser', ['-u', 'postgres', '--', path, ...rest]] : [path, rest];
		execFileSync(program as string, args as string[], { stdio: 'ignore' });
	}
}

const isRoot = () => process.getuid?.() === 0;
