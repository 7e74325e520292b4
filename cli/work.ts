import { closeServices, services } from '../src/lib/server/services/services';

// `node build-node/work.js`: a process that does jobs and answers no requests, beside others on one PostgreSQL server.

if (!process.env.DATABASE_URL) {
	process.stderr.write(
		'A process that only works needs a PostgreSQL server that it shares with others: set DATABASE_URL.\n'
	);
	process.exit(1);
}
await services();
console.log('Membrana works on jobs.');
for (const signal of ['SIGTERM', 'SIGINT'] as const) {
	process.once(signal, () => void closeServices().then(() => process.exit(0)));
}
