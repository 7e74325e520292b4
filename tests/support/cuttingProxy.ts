import { createServer, connect, type AddressInfo, type Server, type Socket } from 'node:net';

/** A line to a server that can be cut: every open connection breaks at once, and none comes through until it is mended. */
export class CuttingProxy {
	readonly #open = new Set<Socket>();
	#cut = false;

	private constructor(
		readonly server: Server,
		readonly port: number
	) {}

	static async start(target: number): Promise<CuttingProxy> {
		const server = createServer((client) => {
			if (proxy.#cut) {
				client.destroy();
				return;
			}
			const upstream = connect(target, '127.0.0.1');
			for (const [one, other] of [
				[client, upstream],
				[upstream, client]
			] as const) {
				proxy.#open.add(one);
				one.pipe(other);
				one.on('error', () => undefined);
				one.on('close', () => {
					proxy.#open.delete(one);
					other.destroy();
				});
			}
		});
		await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
		const proxy = new CuttingProxy(server, (server.address() as AddressInfo).port);
		return proxy;
	}

	cut(): void {
		this.#cut = true;
		for (const socket of this.#open) socket.destroy();
	}

	mend(): void {
		this.#cut = false;
	}

	close(): void {
		this.cut();
		this.server.close();
	}
}
