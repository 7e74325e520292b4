import { parse, protocol, types as typeNumbers, type PGlite } from '@electric-sql/pglite';
import type { Rows } from './pgliteProtocol';

const { serialize } = protocol;

const isJson = ({ dataTypeID }: { readonly dataTypeID: number }) =>
	dataTypeID === typeNumbers.JSON || dataTypeID === typeNumbers.JSONB;
const asText = (text: string) => text;

/** So many statements are held; the one that was used longest ago makes room. */
const MOST = 200;
/** A plan is made anew after so many uses: tables grow, and what was right for ten rows may be slow for ten thousand. */
const USES = 200;
/** What changes a table's columns changes what is known of statements. */
const CHANGES_TABLES = /\b(alter|drop)\b/i;

interface Prepared {
	readonly name: string;
	/** PostgreSQL's number of each parameter's type. */
	readonly types: readonly number[];
	uses: number;
}

/**
 * Statements that stay prepared: in this PostgreSQL, planning one takes ten times as long as what it then does, and the
 * application has few different ones. Plans are PostgreSQL's own: after five uses it takes one for all parameters where
 * that is estimated no worse.
 */
export class PreparedStatements {
	readonly #held = new Map<string, Prepared>();
	#last = 0;

	/** JSON is parsed by whoever asked. */
	readonly #parsers: PGlite['parsers'];

	constructor(readonly pg: PGlite) {
		this.#parsers = { ...pg.parsers, [typeNumbers.JSON]: asText, [typeNumbers.JSONB]: asText };
	}

	/** How many are held. */
	get size(): number {
		return this.#held.size;
	}

	/**
	 * The rows of one statement. Whoever calls sees to it that no other's transaction is open.
	 *
	 * @throws as PGlite's `query` does, with PostgreSQL's code
	 */
	query(sql: string, parameters: readonly unknown[]): Promise<Rows> {
		return this.pg.runExclusive(async () => {
			const { name, types } = this.#used(sql) ?? (await this.#prepare(sql));
			const values = parameters.map((value, i) => {
				if (value === null || value === undefined) return null;
				const written = this.pg.serializers[types[i]!];
				return written ? written(value) : String(value);
			});
			const messages = await this.#send(
				serialize.bind({ statement: name, values }),
				serialize.describe({ type: 'P' }),
				serialize.execute({}),
				serialize.sync()
			);
			const [result] = parse.parseResults(messages, this.#parsers);
			return {
				rows: (result?.rows ?? []) as Rows['rows'],
				json: (result?.fields ?? []).filter(isJson).map((field) => field.name)
			};
		});
	}

	/** What is held may be wrong once such a script has run. */
	async ranScript(sql: string): Promise<void> {
		if (!CHANGES_TABLES.test(sql)) return;
		await this.pg.runExclusive(async () => {
			for (const held of this.#held.keys()) await this.#forget(held);
		});
	}

	#used(sql: string): Prepared | undefined {
		const prepared = this.#held.get(sql);
		if (!prepared || ++prepared.uses > USES) return undefined;
		// A map goes through its entries in the order in which they were set.
		this.#held.delete(sql);
		this.#held.set(sql, prepared);
		return prepared;
	}

	async #prepare(sql: string): Promise<Prepared> {
		if (this.#held.has(sql)) await this.#forget(sql);
		const name = `s${++this.#last}`;
		const messages = await this.#send(
			serialize.parse({ name, text: sql }),
			serialize.describe({ type: 'S', name }),
			serialize.sync()
		);
		const prepared = { name, types: parse.parseDescribeStatementResults(messages), uses: 1 };
		const [oldest] = this.#held.keys();
		if (this.#held.size >= MOST) await this.#forget(oldest!);
		this.#held.set(sql, prepared);
		return prepared;
	}

	async #forget(sql: string): Promise<void> {
		const { name } = this.#held.get(sql)!;
		this.#held.delete(sql);
		await this.#send(serialize.close({ type: 'S', name }), serialize.sync());
	}

	/** What is sent in one go is over after its `sync`, also where PostgreSQL says no on the way. */
	#send(...parts: readonly Uint8Array[]) {
		return this.pg.execProtocolStream(Buffer.concat(parts), { syncToFs: !this.pg.isInTransaction() });
	}
}
