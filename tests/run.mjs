// Runs every check and ends with the plain count. A step that fails does not stop the rest.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';

rmSync('test-results', { recursive: true, force: true });
mkdirSync('test-results', { recursive: true });

let passed = 0;
let failed = 0;

function run(title, command, args) {
	console.log(`\n== ${title}`);
	return new Promise((done) => {
		spawn(command, args, { stdio: 'inherit' }).on('close', (status) => done(status === 0));
	});
}

/** A check without tests of its own counts as one. What it writes is shown when it is over. */
function check(title, args) {
	return new Promise((done) => {
		const child = spawn('npx', args, { stdio: ['ignore', 'pipe', 'pipe'] });
		let output = '';
		child.stdout.on('data', (chunk) => (output += chunk));
		child.stderr.on('data', (chunk) => (output += chunk));
		child.on('close', (status) => {
			console.log(`\n== ${title}\n${output}`);
			if (status === 0) passed++;
			else failed++;
			done();
		});
	});
}

function counts(path) {
	try {
		return JSON.parse(readFileSync(path, 'utf8'));
	} catch {
		return null;
	}
}

const unitsOk = await run('Unit and HTTP tests', 'npx', [
	'vitest',
	'run',
	'--reporter=default',
	'--reporter=json',
	'--outputFile.json=test-results/unit.json'
]);
const units = counts('test-results/unit.json');
passed += units?.numPassedTests ?? 0;
failed += units?.numFailedTests ?? 0;
if (!unitsOk && !units?.numFailedTests) failed++;

// The browser keeps one core busy; what is checked without running has the other.
spawnSync('npx', ['svelte-kit', 'sync'], { stdio: 'ignore' });
const checks = (async () => {
	await check('Format', ['prettier', '--check', '--log-level', 'warn', '.']);
	await check('Lint', ['eslint', '.']);
	await check('Types', [
		'svelte-check',
		'--tsconfig',
		'./tsconfig.json',
		'--fail-on-warnings',
		'--output',
		'human'
	]);
})();
const browserOk = await run('Browser tests', 'npx', ['playwright', 'test']);
await checks;
const browser = counts('test-results/browser.json');
passed += browser?.stats.expected ?? 0;
failed += (browser?.stats.unexpected ?? 0) + (browser?.stats.flaky ?? 0);
if (!browserOk && !browser?.stats.unexpected) failed++;

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
