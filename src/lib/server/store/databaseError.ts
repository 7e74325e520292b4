/** The database cannot be reached for the moment. Nothing that was acknowledged is lost. */
export class DatabaseAwayError extends Error {
	constructor(reason: string) {
		super(`The database cannot be reached: ${reason}`);
		this.name = 'DatabaseAwayError';
	}
}

/** PostgreSQL said no to a statement. */
export class DatabaseError extends Error {
	/** @param code SQLSTATE */
	constructor(
		message: string,
		readonly code: string | null
	) {
		super(message);
		this.name = 'DatabaseError';
	}
}
