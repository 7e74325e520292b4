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

/** The answer with number 0 says that the database is open. */
export type Answer = { readonly id: number } & (
	{ readonly rows: unknown[] } | { readonly error: ThreadError }
);
