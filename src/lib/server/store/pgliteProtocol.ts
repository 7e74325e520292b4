/** What the database's thread is started with. */
export interface ThreadData {
	readonly folder: string;
	/** Whether a database that is new has the tables of this version already. */
	readonly tables: boolean;
}

/** What is asked of the database's thread. Every question has a number of its own, from 1. */
export type Question = { readonly id: number } & (
	| {
			readonly kind: 'query';
			readonly sql: string;
			readonly parameters: unknown[];
			readonly transaction: number | null;
	  }
	| { readonly kind: 'script'; readonly sql: string; readonly transaction: number | null }
	/** Opens a transaction, which goes by this question's number. */
	| { readonly kind: 'begin' }
	| { readonly kind: 'commit' | 'rollback'; readonly transaction: number }
	| { readonly kind: 'close' }
);

/** Errors lose their class between threads. */
export interface ThreadError {
	readonly message: string;
	/** SQLSTATE, where PostgreSQL said no. */
	readonly code?: string;
}

/** Rows as they cross between threads: text is copied in a fraction of the time that what it describes takes. */
export interface Rows {
	readonly rows: Record<string, unknown>[];
	/** Columns with JSON, which is still text. */
	readonly json: readonly string[];
}

export const NO_ROWS: Rows = { rows: [], json: [] };

/** The answer with number 0 says that the database is open. */
export type Answer = { readonly id: number } & (Rows | { readonly error: ThreadError });

/** Rows with what their JSON says, in place. */
export function parsed({ rows, json }: Rows): Record<string, unknown>[] {
	for (const column of json) {
		for (const row of rows) {
			if (row[column] !== null) row[column] = JSON.parse(row[column] as string);
		}
	}
	return rows;
}
