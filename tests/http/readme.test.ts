import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { freePort, seed, until } from '../support/app';

const home = mkdtempSync(join(tmpdir(), 'membrana-readme-'));

/** Lines with the command in the code blocks of a part of the README; on a PostgreSQL server, postgres.test.ts runs them. */
function commandsOf(title: string): string[] {
	const part = readFileSync('README.md', 'utf8')
		.split(`\n## ${title}\n`)[1]!
		.split(/\n###? /)[0]!;
	return [...part.matchAll(/```sh\n([\s\S]*?)```/g)]
		.flatMap((block) => block[1]!.split('\n'))
		.filter((line) => line.includes('./membrana'));
}

/** A command as somebody types it, with folders of this test in place of those that are named. */
const typed = (command: string) =>
	command.replaceAll('/backups/', `${home}/`).replaceAll('/srv/restored', join(home, 'restored'));
const environment = (more: NodeJS.ProcessEnv) => ({
	...process.env,
	MEMBRANA_PORTAL: '',
	MEMBRANA_READER: 'off',
	MEMBRANA_RESERVE_MB: '50',
	MEMBRANA_BROWSER: 'none',
	HOME: home,
	...more
});

/** Starts a command that goes on, waits for what it says, and ends it. */
async function says(command: string, words: RegExp, more: NodeJS.ProcessEnv): Promise<string> {
	const child: ChildProcess = spawn('bash', ['-c', `exec ${typed(command)}`], {
		env: environment(more),
		stdio: ['ignore', 'pipe', 'pipe']
	});
	let output = '';
	child.stdout!.on('data', (chunk: Buffer) => (output += chunk.toString()));
	child.stderr!.on('data', (chunk: Buffer) => (output += chunk.toString()));
	try {
		await until(async () => words.test(output));
		return output;
	} finally {
		child.kill('SIGTERM');
		await new Promise((done) => child.on('exit', done));
	}
}

describe('every command that the README tells', () => {
	it('one person to use', async () => {
		expect(commandsOf('For yourself')).toEqual(['./membrana mine']);
		const port = String(await freePort());
		const output = await says('./membrana mine', /It ends with Ctrl\+C/, { PORT: port });
		expect(output).toContain(`Everything is in ${join(home, 'Membrana')}`);
	});

	it('a school to use', async () => {
		const [serve, ...keep] = commandsOf('For a school');
		const port = String(await freePort());
		const output = await says(serve!, /\/first\/[\w-]+/, { PORT: port, MEMBRANA_DATA: join(home, 'new') });
		expect(output).toContain(`http://127.0.0.1:${port}/first/`);
		const data = join(home, 'data');
		await seed(data);
		for (const command of keep) {
			const { status, stdout, stderr } = spawnSync('bash', ['-c', typed(command)], {
				encoding: 'utf8',
				env: environment({ MEMBRANA_DATA: data }),
				timeout: 120_000
			});
			expect([command, status, stderr]).toEqual([command, 0, expect.any(String)]);
			expect(stdout).toMatch(/backup|membrana\.tar|Restored into|every one is what it should be/);
		}
		expect(keep).toHaveLength(4);
	});
});
