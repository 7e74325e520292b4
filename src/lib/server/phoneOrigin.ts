import { networkInterfaces } from 'node:os';
import { isLoopbackName } from './loopback';

export interface PhoneOrigin {
	readonly origin: string;
	/** Whether a phone can get there: over a network, or only from this very machine. */
	readonly reach: 'network' | 'this-machine';
}

/**
 * The address to put into a phone link. MEMBRANA_PHONE_ORIGIN where it is set; otherwise the address of
 * the person's own browser, and where that is loopback while the server listens on the network, this
 * machine's address there.
 */
export function phoneOrigin(url: URL, environment: NodeJS.ProcessEnv = process.env): PhoneOrigin {
	const set = environment.MEMBRANA_PHONE_ORIGIN;
	if (set) return { origin: set.replace(/\/+$/, ''), reach: 'network' };
	if (!isLoopbackName(url.hostname)) return { origin: url.origin, reach: 'network' };
	const listensOnNetwork = environment.HOST === '0.0.0.0' || environment.HOST === '::';
	const address = listensOnNetwork
		? Object.values(networkInterfaces())
				.flat()
				.find((i) => i && !i.internal && i.family === 'IPv4')?.address
		: undefined;
	if (!address) return { origin: url.origin, reach: 'this-machine' };
	return { origin: `${url.protocol}//${address}${url.port ? `:${url.port}` : ''}`, reach: 'network' };
}
