import { spawnSync } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';

const RESULT = 'test-results/camera-rate.json';

/**
 * How often the live outline is looked for in a 720p camera, measured in the browser test that uses Chromium's
 * simulated device, and whether the page's main thread stayed free meanwhile.
 */
export function benchCamera(print: (line: string) => void): void {
	rmSync(RESULT, { force: true });
	const run = spawnSync('npx', ['playwright', 'test', 'gather', '-g', 'a device camera'], {
		encoding: 'utf8',
		stdio: ['ignore', 'pipe', 'inherit']
	});
	if (run.status !== 0) throw new Error(`The browser test failed:\n${run.stdout}`);
	const { looksASecond, longTasks } = JSON.parse(readFileSync(RESULT, 'utf8')) as {
		looksASecond: number;
		longTasks: number[];
	};
	print(`live outline at 720p   ${looksASecond} a second (budget 15)`);
	print(
		`main thread            ${longTasks.length} tasks over 50 ms in 4 s (budget 0) ${longTasks.join(', ')}`
	);
}
