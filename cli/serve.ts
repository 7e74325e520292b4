import { readFileSync } from 'node:fs';
import { createServer, type RequestListener } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { isOwnName } from './ownNames';

// `node build-node/serve.js`: the application alone; over TLS where a certificate and its key are given.

/** Set here for every request; what a browser sends under this name counts for nothing. */
const PROTOCOL = 'x-membrana-protocol';
const { MEMBRANA_TLS_CERT: certificate, MEMBRANA_TLS_KEY: key } = process.env;
// The built application reads these when it is loaded.
process.env.BODY_SIZE_LIMIT ??= '64M';
process.env.SHUTDOWN_TIMEOUT ??= '5';

if (!certificate !== !key) stop('Give both MEMBRANA_TLS_CERT and MEMBRANA_TLS_KEY, or neither.');
const host = process.env.HOST ?? '127.0.0.1';
const port = Number(process.env.PORT ?? 4173);
/**
 * Where nobody said at which address people come in, it is this machine's own, however they write it: `localhost` and
 * `127.0.0.1`, and what its network knows it by.
 */
const isGiven = Boolean(process.env.ORIGIN || process.env.HOST_HEADER);
if (!isGiven) process.env.PROTOCOL_HEADER = PROTOCOL;
const tls = certificate && key ? { cert: read(certificate), key: read(key) } : null;
/** What the application tells of where it is. */
process.env.MEMBRANA_ADDRESS = process.env.ORIGIN || `${tls ? 'https' : 'http'}://${host}:${port}`;
/** It lies beside this build and is not part of it. */
const { handler } = (await import(new URL('../build/handler.js', import.meta.url).href)) as {
	handler: RequestListener;
};
serve(tls, (request, response) => {
	// Also of what the application does not answer itself: scripts, fonts, pictures of the interface.
	response.setHeader('x-content-type-options', 'nosniff');
	response.setHeader('referrer-policy', 'same-origin');
	// One that is for this computer only says so itself.
	if (!isGiven && !process.env.MEMBRANA_MINE && !isOwnName(request.headers.host ?? '', host)) {
		response.writeHead(421, { 'content-type': 'text/plain; charset=utf-8' });
		response.end(
			'Membrana does not answer to this name. Start it with ORIGIN set to the address that people use.\n'
		);
		return;
	}
	request.headers[PROTOCOL] = tls ? 'https' : 'http';
	return handler(request, response);
});

function serve(secret: { cert: Buffer; key: Buffer } | null, listener: RequestListener): void {
	const server = open();
	server.on('error', (error) => stop(`Cannot listen: ${error.message}`));
	server.listen(port, host);
	for (const signal of ['SIGTERM', 'SIGINT'] as const) {
		process.once(signal, () => {
			server.close(() => {
				// The application ends what it has open at this.
				process.emit('sveltekit:shutdown' as never, signal as never);
			});
			server.closeIdleConnections();
			// Open event streams must not hold the process up.
			setTimeout(() => server.closeAllConnections(), 1000 * Number(process.env.SHUTDOWN_TIMEOUT)).unref();
		});
	}

	function open() {
		try {
			return secret ? createTlsServer(secret, listener) : createServer(listener);
		} catch (error) {
			return stop(`The certificate or its key cannot be used: ${(error as Error).message}`);
		}
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
