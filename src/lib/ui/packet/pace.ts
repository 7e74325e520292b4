/** Milliseconds after which people want to know how long something still takes. */
const WORTH_SAYING = 10_000;

/** How fast something is getting done, told by how much of it is left now and then. */
export class Pace {
	#begun: { at: number; left: number } | null = null;
	#last = 0;

	/**
	 * @param left how many are still to be done
	 * @param now milliseconds
	 * @returns milliseconds more, by how it went so far; null while that is not known, or not worth saying
	 */
	told(left: number, now: number): number | null {
		// More than before is another piece of work.
		if (left === 0 || this.#begun === null || left > this.#last) {
			this.#begun = left === 0 ? null : { at: now, left };
			this.#last = left;
			return null;
		}
		this.#last = left;
		const done = this.#begun.left - left;
		const taken = now - this.#begun.at;
		if (done < 2) return null;
		const more = (left * taken) / done;
		return taken + more < WORTH_SAYING ? null : more;
	}
}

/** "about 20 s more", "about 3 min more": as exact as a guess is. */
export function aboutMore(milliseconds: number): string {
	const seconds = milliseconds / 1000;
	if (seconds < 90) return `about ${Math.max(5, 5 * Math.round(seconds / 5))} s more`;
	return `about ${Math.round(seconds / 60)} min more`;
}
