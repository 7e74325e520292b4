import { hostname, networkInterfaces } from 'node:os';
import { isLoopbackName } from '../src/lib/server/loopback';

/**
 * Whether the name that a browser asked for is one of this machine's: loopback, and where the server listens on the
 * network, its addresses and its name there. Any other may be somebody's who wants links in mails to lead to them.
 *
 * @param asked as in the header `host`, with or without a port
 * @param listensAt what the server listens at, `0.0.0.0` or `::` being everything
 */
export function isOwnName(asked: string, listensAt: string): boolean {
	const name = asked.replace(/:\d+$/, '').toLowerCase();
	if (isLoopbackName(name) || name === bracketed(listensAt)) return true;
	if (listensAt !== '0.0.0.0' && listensAt !== '::') return false;
	const addresses = Object.values(networkInterfaces()).flatMap((all) =>
		(all ?? []).map((i) => bracketed(i.address))
	);
	const own = hostname().toLowerCase();
	return [...addresses, own, `${own}.local`].includes(name);
}

/** As it stands in an address. */
const bracketed = (address: string) => (address.includes(':') ? `[${address}]` : address.toLowerCase());
