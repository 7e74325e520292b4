import { inflateSync } from 'node:zlib';

/** Unpacks a font in WOFF 1.0 (W3C, 2012) to the plain one inside it, which a PDF can hold. */
export function unpackWoff(woff: Buffer): Buffer {
	if (woff.toString('latin1', 0, 4) !== 'wOFF') throw new TypeError('This is not a font in WOFF.');
	const count = woff.readUInt16BE(12);
	const power = Math.floor(Math.log2(count));
	const header = Buffer.alloc(12 + 16 * count);
	woff.copy(header, 0, 4, 8);
	header.writeUInt16BE(count, 4);
	header.writeUInt16BE(16 * 2 ** power, 6);
	header.writeUInt16BE(power, 8);
	header.writeUInt16BE(16 * (count - 2 ** power), 10);
	const tables: Buffer[] = [];
	let offset = header.length;
	for (let i = 0; i < count; i++) {
		const entry = 44 + 20 * i;
		const [start, packed, length, checksum] = [4, 8, 12, 16].map((at) => woff.readUInt32BE(entry + at)) as [
			number,
			number,
			number,
			number
		];
		const bytes = woff.subarray(start, start + packed);
		const table = packed < length ? inflateSync(bytes) : bytes;
		const record = 12 + 16 * i;
		woff.copy(header, record, entry, entry + 4);
		header.writeUInt32BE(checksum, record + 4);
		header.writeUInt32BE(offset, record + 8);
		header.writeUInt32BE(length, record + 12);
		// Tables begin at multiples of four.
		const padding = Buffer.alloc((4 - (length % 4)) % 4);
		tables.push(table, padding);
		offset += length + padding.length;
	}
	return Buffer.concat([header, ...tables]);
}
