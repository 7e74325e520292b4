/** Plain SQL on either driver. Parameters are `$1`, `$2` …; jsonb goes in as a JSON string. */
export interface Database {
	/** @throws DatabaseError where PostgreSQL says no, DatabaseAwayError where it cannot be reached */
	query<Row = Record<string, unknown>>(sql: string, parameters?: readonly unknown[]): Promise<Row[]>;
	/** Several statements at once, without parameters; the rows of the last one. */
	script(sql: string): Promise<Record<string, unknown>[]>;
	/** All or nothing. Inside, only the database given may be used. */
	transaction<T>(work: (db: Database) => Promise<T>): Promise<T>;
	/** What other processes on this database say; null where there can be none. */
	readonly news: News | null;
	close(): Promise<void>;
}

/** Short messages between the processes that work on one database. */
export interface News {
	/** Tells every process, this one included. Lost where the database is away: it says that something is new, not what. */
	tell(message: string): void;
	/** Calls back for each message, and with null after messages may have been missed. */
	hear(callback: (message: string | null) => void): void;
}
