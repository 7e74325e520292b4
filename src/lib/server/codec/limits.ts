/** Limits that hold before anything is decoded. */
export const LIMITS = {
	/** Bytes of one file. */
	bytes: 200_000_000,
	/** Pixels of one picture: a 100-megapixel phone picture passes. */
	pixels: 120_000_000,
	/** Shorter side of a picture, in pixels: under this there is nothing to read. */
	side: 50,
	/** Pages of one PDF or TIFF, and files in one ZIP. */
	pages: 200,
	/** Bytes that a ZIP may unpack to. */
	unpacked: 600_000_000
} as const;
