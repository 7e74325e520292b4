/** A seeded source of numbers (mulberry32), so that every generated picture can be made again. */
export class Random {
	#state: number;

	constructor(seed: number) {
		this.#state = (seed * 2654435761) >>> 0;
	}

	/** Uniform in [0, 1). */
	next(): number {
		this.#state = (this.#state + 0x6d2b79f5) >>> 0;
		let t = this.#state;
		t = Math.imul(t ^ (t >>> 15), t | 1);
		t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	}

	between(low: number, high: number): number {
		return low + (high - low) * this.next();
	}

	/** A whole number from `low` to `high`, both included. */
	whole(low: number, high: number): number {
		return low + Math.floor(this.next() * (high - low + 1));
	}

	pick<T>(items: readonly T[]): T {
		return items[Math.floor(this.next() * items.length)]!;
	}

	chance(probability: number): boolean {
		return this.next() < probability;
	}

	/** Standard normal (Box and Muller 1958). */
	normal(): number {
		return Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next());
	}
}
