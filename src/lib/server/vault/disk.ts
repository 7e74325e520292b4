import { statfs } from 'node:fs/promises';

/** Milliseconds between two looks at how much is free. */
const LOOK = 1_000;

/**
 * How full the disk is under the data folder. A reserve is left for the database, so that edits are still kept when no
 * file is taken in any more.
 */
export class Disk {
	readonly sentence =
		'The disk of this Membrana is nearly full, so no more files can be kept. Nothing that arrived is lost; tell who runs it, and try again later.';
	#free = Infinity;
	#wasLow = false;
	#timer: NodeJS.Timeout | null = null;

	private constructor(
		readonly folder: string,
		readonly reserveBytes: () => number
	) {}

	/** @param reserveBytes what is left for the database; asked each time */
	static async watch(folder: string, reserveBytes: () => number): Promise<Disk> {
		const disk = new Disk(folder, reserveBytes);
		await disk.#look();
		disk.#timer = setInterval(() => void disk.#look(), LOOK);
		disk.#timer.unref();
		return disk;
	}

	/** Whether so many bytes more would reach into the reserve. */
	isLow(bytes = 0): boolean {
		return this.#free - bytes < this.reserveBytes();
	}

	get freeBytes(): number {
		return this.#free;
	}

	close(): void {
		if (this.#timer) clearInterval(this.#timer);
	}

	async #look(): Promise<void> {
		try {
			const { bavail, bsize } = await statfs(this.folder);
			this.#free = bavail * bsize;
		} catch (error) {
			console.error(`Disk: ${(error as Error).message}`);
			return;
		}
		const isLow = this.isLow();
		if (isLow !== this.#wasLow) {
			const megabytes = Math.round(this.#free / 1e6);
			console.error(
				isLow
					? `Disk: only ${megabytes} MB are free; no more files are taken in.`
					: `Disk: ${megabytes} MB are free again; files are taken in.`
			);
		}
		this.#wasLow = isLow;
	}
}
