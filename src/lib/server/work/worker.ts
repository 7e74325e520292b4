import { Worker } from 'node:worker_threads';
import type { Task, TaskAnswer } from './lane';
import * as steps from './steps';

// A process of work: does what it is sent, one step at a time, and ends with the server.

process.on('message', (task: Task) => {
	const step = steps[task.name] as (input: unknown) => Promise<unknown>;
	step(task.input).then(
		(result) => task.quiet || reply({ result }),
		(error: unknown) =>
			task.quiet || reply({ error: error instanceof Error ? (error.stack ?? error.message) : String(error) })
	);
});
process.on('disconnect', () => process.exit());

function reply(answer: TaskAnswer): void {
	process.send?.(answer);
}

// A step that never comes back does not hear that the server has gone: a thread of its own looks who the parent is.
new Worker(
	`const parent = process.ppid;
	setInterval(() => { if (process.ppid !== parent) process.kill(process.pid, 'SIGKILL'); }, 1000);`,
	{ eval: true, execArgv: [], resourceLimits: { maxOldGenerationSizeMb: 16, maxYoungGenerationSizeMb: 4 } }
).unref();
