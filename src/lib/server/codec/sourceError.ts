/** A file that cannot be used, with a sentence for the person who brought it. */
export class SourceError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'SourceError';
	}
}
