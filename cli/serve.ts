import { readFileSync } from 'node:fs';
import type { RequestListener } from 'node:http';
import { createServer } from 'node:https';

// `node build-node/serve.js`: the application alone; over TLS where a certificate and its key are given.

const { MEMBRANA_TLS_CERT: certificate, MEMBRANA_TLS_KEY: key } = process.env;
/** The built application lies beside this build and is not part of it. */
const built = (file: string) => import(new URL(`../build/${file}`, import.meta.url).href);

if (!certificate && !key) await built('index.js');
else if (!certificate || !key) stop('Give both MEMBRANA_TLS_CERT and MEMBRANA_TLS_KEY, or neither.');
else await serveTls(read(certificate), read(key));

async function serveTls(cert: Buffer, privateKey: Buffer): Promise<void> {
	const { handler } = (await built('handler.js')) as { handler: RequestListener };
	let server;
	try {
		server = createServer({ cert, key: privateKey }, handler);
	} catch (error) {
		return stop(`The certificate or its key cannot be used: ${(error as Error).message}`);
	}
	server.on('error', (error) => stop(`Cannot listen: ${error.message}`));
	server.listen(Number(process.env.PORT ?? 4173), process.env.HOST ?? '127.0.0.1');
	for (const signal of ['SIGTERM', 'SIGINT'] as const) {
		process.once(signal, () => {
			server.close(() => {
				// The application closes its house at this, as under adapter-node's own server.
				process.emit('sveltekit:shutdown' as never, signal as never);
			});
			// Open event streams must not hold the process up.
			setTimeout(() => server.closeAllConnections(), 1000 * Number(process.env.SHUTDOWN_TIMEOUT ?? 5));
		});
	}
}

function read(path: string): Buffer {
	try {
		return readFileSync(path);
	} catch {
		return stop(`${path} cannot be read.`);
	}
}

function stop(message: string): never {
	process.stderr.write(`${message}\n`);
	process.exit(1);
}
