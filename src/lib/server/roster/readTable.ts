import { parse, CsvError } from 'csv-parse/sync';
import type { Table } from '../../core/roster/roster';

/** Why a table cannot be read, as a sentence. */
export class TableError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'TableError';
	}
}

const MOST_ROWS = 60_000;
const MOST_COLUMNS = 100;

/**
 * A table with columns parted by commas, semicolons or tabs, in UTF-8, UTF-16 or Windows-1252.
 * @throws TableError
 */
export function readTable(bytes: Uint8Array, name: string): Table {
	const text = textOf(bytes);
	if (text.trim() === '') throw new TableError(`${name} is empty.`);
	if (text.includes('\0')) throw new TableError(`${name} is no table of text. Save it as CSV in UTF-8.`);
	try {
		const records = parse(text, {
			delimiter: delimiterOf(text),
			info: true,
			relax_column_count: true,
			skip_empty_lines: true,
			trim: true,
			max_record_size: 100_000
		}) as unknown as { info: { lines: number }; record: string[] }[];
		if (records.length > MOST_ROWS) {
			throw new TableError(`${name} has ${records.length} rows; at most ${MOST_ROWS} are taken at once.`);
		}
		let line = 0;
		const rows = records.map(({ info, record }) => {
			const begins = line + 1;
			line = info.lines;
			return { line: Math.max(begins, info.lines - breaksIn(record)), cells: record.slice(0, MOST_COLUMNS) };
		});
		return { name, rows };
	} catch (error) {
		if (!(error instanceof CsvError)) throw error;
		const where = typeof error.lines === 'number' ? ` from line ${error.lines} on` : '';
		if (error.code === 'CSV_QUOTE_NOT_CLOSED') {
			throw new TableError(
				`In ${name} a quote is opened and never closed${where}. Close it, or save the table anew.`
			);
		}
		throw new TableError(
			`${name} cannot be read${where}: a quote stands where none can. Save the table anew as CSV.`
		);
	}
}

const breaksIn = (record: readonly string[]) =>
	record.reduce((sum, cell) => sum + cell.split('\n').length - 1, 0);

function textOf(bytes: Uint8Array): string {
	const [a, b, c] = bytes;
	if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes.subarray(2));
	if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes.subarray(2));
	const body = a === 0xef && b === 0xbb && c === 0xbf ? bytes.subarray(3) : bytes;
	// UTF-16 without its mark: every other byte of Latin text is 0.
	const zeros = body.subarray(0, 200).filter((byte) => byte === 0).length;
	if (zeros > 40) return new TextDecoder(body[0] === 0 ? 'utf-16be' : 'utf-16le').decode(body);
	try {
		return new TextDecoder('utf-8', { fatal: true }).decode(body);
	} catch {
		return new TextDecoder('windows-1252').decode(body);
	}
}

/** The sign that parts the columns in most of the first lines, outside quotes. */
function delimiterOf(text: string): string {
	const lines = text
		.split(/\r?\n/)
		.filter((line) => line.trim() !== '')
		.slice(0, 20)
		.map((line) => line.replace(/"[^"]*"/g, ''));
	const counts = ['\t', ';', ','].map((sign) => ({
		sign,
		lines: lines.filter((line) => line.includes(sign)).length
	}));
	return counts.reduce((best, one) => (one.lines > best.lines ? one : best)).sign;
}
