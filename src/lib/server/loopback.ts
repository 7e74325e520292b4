const LOOPBACK = /^(localhost|127\.\d+\.\d+\.\d+|\[::1\])$/;

/** Whether a host's name, as it stands in an address, means this very machine. */
export function isLoopbackName(hostname: string): boolean {
	return LOOPBACK.test(hostname);
}
