/**
 * Does something one at a time, so that what was asked for first cannot come last. Who asks while it is being done gets
 * what is begun after that; all who ask meanwhile get the same.
 */
export function inTurn(work: () => Promise<void>): () => Promise<void> {
	let now: Promise<void> | null = null;
	let next: Promise<void> | null = null;
	const begin = (): Promise<void> => {
		now = work().finally(() => (now = null));
		return now;
	};
	return () => {
		if (!now) return begin();
		next ??= now
			.catch(() => undefined)
			.then(() => {
				next = null;
				return begin();
			});
		return next;
	};
}
