/** Counts tries by key within a sliding window; in memory, since there is one web process. */
export class RateLimit {
	readonly #tries = new Map<string, number[]>();

	constructor(
		readonly most: number,
		readonly windowMilliseconds: number
	) {}

	/** Records a try and says whether it is one too many. */
	isTooMany(key: string, now = Date.now()): boolean {
		const recent = (this.#tries.get(key) ?? []).filter((t) => t > now - this.windowMilliseconds);
		recent.push(now);
		this.#tries.set(key, recent.slice(-this.most - 1));
		if (this.#tries.size > 10_000) this.#tries.clear();
		return recent.length > this.most;
	}

	forget(key: string): void {
		this.#tries.delete(key);
	}
}
