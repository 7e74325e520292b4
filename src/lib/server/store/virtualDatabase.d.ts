/** See emptyDatabasePlugin.ts. */
declare module 'virtual:empty-database' {
	/** The file: beside the built code, or by its whole path. */
	export const emptyDatabase: string;
}
