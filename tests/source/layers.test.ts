import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const ROOT = 'src/lib';

/** The code of a file; of a component, its script. */
function codeOf(path: string): string {
	const text = readFileSync(path, 'utf8');
	if (!path.endsWith('.svelte')) return text;
	return [...text.matchAll(/<script[^>]*>([\s\S]*?)<\/script>/g)].map((m) => m[1]).join('\n');
}

/** What a file imports as values, as written. */
function valueImports(path: string): string[] {
	const file = ts.createSourceFile(path, codeOf(path), ts.ScriptTarget.Latest);
	return file.statements.flatMap((statement) => {
		if (!ts.isImportDeclaration(statement) && !ts.isExportDeclaration(statement)) return [];
		const { moduleSpecifier } = statement;
		if (!moduleSpecifier || !ts.isStringLiteral(moduleSpecifier)) return [];
		const clause = ts.isImportDeclaration(statement) ? statement.importClause : null;
		const named = clause?.namedBindings;
		const onlyTypes =
			clause?.isTypeOnly === true ||
			(clause !== null &&
			clause !== undefined &&
			!clause.name &&
			named !== undefined &&
			ts.isNamedImports(named)
				? named.elements.every((e) => e.isTypeOnly)
				: false) ||
			(ts.isExportDeclaration(statement) && statement.isTypeOnly);
		return onlyTypes ? [] : [moduleSpecifier.text];
	});
}

/** For each folder, the folders whose values it uses, with one example. */
function folders(): Map<string, Map<string, string>> {
	const found = new Map<string, Map<string, string>>();
	const files = readdirSync(ROOT, { recursive: true, encoding: 'utf8' })
		.map((f) => join(ROOT, f))
		.filter((f) => /\.(ts|svelte)$/.test(f) && !/\.(test|d)\.ts$/.test(f));
	for (const path of files) {
		const from = relative(ROOT, dirname(path));
		if (!found.has(from)) found.set(from, new Map());
		for (const name of valueImports(path)) {
			const target = name.startsWith('$lib/')
				? join(ROOT, name.slice(5))
				: name.startsWith('.')
					? normalize(join(dirname(path), name))
					: null;
			if (!target?.startsWith(ROOT)) continue;
			const to = relative(ROOT, dirname(target));
			if (to !== from) found.get(from)!.set(to, `${path} uses ${name}`);
		}
	}
	return found;
}

/** A way from a folder back to itself, as the uses it is made of; null where there is none. */
function circle(all: ReturnType<typeof folders>): string[] | null {
	const done = new Set<string>();
	const visit = (folder: string, way: readonly { folder: string; use: string }[]): string[] | null => {
		const at = way.findIndex((w) => w.folder === folder);
		if (at >= 0) return way.slice(at).map((w) => w.use);
		if (done.has(folder)) return null;
		for (const [to, use] of all.get(folder) ?? []) {
			const found = visit(to, [...way, { folder, use }]);
			if (found) return found;
		}
		done.add(folder);
		return null;
	};
	for (const folder of all.keys()) {
		const found = visit(folder, []);
		if (found) return found;
	}
	return null;
}

describe('the layers of the source', () => {
	it('no folders use each other’s values in a circle', () => {
		expect(circle(folders())).toBeNull();
	});

	it('the core uses nothing of the server and of the screens, and the server nothing of the screens', () => {
		const wrong = [...folders()].flatMap(([from, uses]) =>
			[...uses].flatMap(([to, use]) => {
				const [a, b] = [from.split('/')[0], to.split('/')[0]];
				return (a === 'core' && b !== 'core') || (a === 'server' && b === 'ui') ? [use] : [];
			})
		);
		expect(wrong).toEqual([]);
	});

	it('a circle is found where there is one', () => {
		const uses = (to: string): [string, string] => [to, `uses ${to}`];
		const all = new Map([
			['a', new Map([uses('b')])],
			['b', new Map([uses('c')])],
			['c', new Map([uses('b')])]
		]);
		expect(circle(all)).toEqual(['uses c', 'uses b']);
	});
});
