/** Plain SQL on either driver. Parameters are `$1`, `$2` …; jsonb goes in as a JSON string. */
export interface Database {
	query<Row = Record<string, unknown>>(sql: string, parameters?: readonly unknown[]): Promise<Row[]>;
	/** Several statements at once, without parameters; the rows of the last one. */
	script(sql: string): Promise<Record<string, unknown>[]>;
	/** All or nothing. Inside, only the database given may be used. */
	transaction<T>(work: (db: Database) => Promise<T>): Promise<T>;
	close(): Promise<void>;
}
