import { statfs } from 'node:fs/promises';

/** Megabytes that are left for the database, unless the setting says otherwise. */
const RESERVE = 500;
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
		readonly reserveBytes: number
	) {}

	/** @param megabytes of the reserve, as it was set */
	static async watch(folder: string, megabytes: string | undefined): Promise<Disk> {
		const reserve = Number(megabytes ?? RESERVE);
		if (!Number.isFinite(reserve) || reserve < 0) {
			throw new RangeError('MEMBRANA_RESERVE_MB takes a number of megabytes.');
		}
		const disk = new Disk(folder, reserve * 1e6);
		await disk.#look();
		disk.#timer = setInterval(() => void disk.#look(), LOOK);
		disk.#timer.unref();
		return disk;
	}

	/** Whether so many bytes more would reach into the reserve. */
	isLow(bytes = 0): boolean {
		return this.#free - bytes < this.reserveBytes;
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
