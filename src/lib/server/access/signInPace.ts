interface Tries {
	/** Wrong tries, fading with time. */
	failures: number;
	/** When it last failed, milliseconds since 1970. */
	at: number;
}

/** One wrong try is forgotten after this many milliseconds. */
const FADE = 60_000;
/** Wrong tries that are free, then seconds to wait, doubled with each further one. */
const BY_PERSON = { free: 5, most: 60 };
const BY_ADDRESS = { free: 40, most: 30 };
/** After so many wrong tries at a name from anywhere, the answer to every further one is held back, in seconds. */
const BY_NAME = { free: 60, hold: 3 };
const MOST_KEYS = 20_000;

/**
 * Slows wrong tries to sign in down; it never locks anybody out. Counted are a name from an address, an address, and a
 * name from anywhere. Who has the password and comes from elsewhere than who guesses is let in, at most a little later.
 */
export class SignInPace {
	readonly #tries = new Map<string, Tries>();

	/** Seconds until the next try is looked at; 0: at once. */
	wait(name: string, address: string, now = Date.now()): number {
		const { person, address: from } = keysOf(name, address);
		const counted = [[person, BY_PERSON] as const, [from, BY_ADDRESS] as const];
		const seconds = counted.map(([key, { free, most }]) => {
			const tries = this.#tries.get(key);
			if (!tries) return 0;
			const over = Math.floor(this.#faded(tries, now)) - free;
			if (over < 0) return 0;
			const until = tries.at + 1000 * Math.min(most, 2 ** over);
			return Math.max(0, Math.ceil((until - now) / 1000));
		});
		return Math.max(...seconds);
	}

	/** Seconds for which the answer to a try at this name is held back, whoever tries. */
	hold(name: string, now = Date.now()): number {
		const tries = this.#tries.get(keysOf(name, '').name);
		return tries && this.#faded(tries, now) > BY_NAME.free ? BY_NAME.hold : 0;
	}

	failed(name: string, address: string, now = Date.now()): void {
		for (const key of Object.values(keysOf(name, address))) {
			const before = this.#tries.get(key);
			this.#tries.delete(key);
			this.#tries.set(key, { failures: (before ? this.#faded(before, now) : 0) + 1, at: now });
		}
		// The longest untouched go first: somebody who fills this up fills it with what faded anyway.
		while (this.#tries.size > MOST_KEYS) this.#tries.delete(this.#tries.keys().next().value!);
	}

	/** The right password: this name from this address begins anew. */
	succeeded(name: string, address: string): void {
		this.#tries.delete(keysOf(name, address).person);
	}

	#faded({ failures, at }: Tries, now: number): number {
		return Math.max(0, failures - (now - at) / FADE);
	}
}

function keysOf(name: string, address: string) {
	const plain = name.trim().toLowerCase();
	return { person: `${address} ${plain}`, address, name: `name ${plain}` };
}
