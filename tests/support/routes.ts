import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** Every method of every server route, and every page with data of its own, as "METHOD /path/[id]". */
export function allRoutes(): string[] {
	const files = readdirSync('src/routes', { recursive: true, encoding: 'utf8' });
	const routes = files.flatMap((file): string[] => {
		const path = `/${dirname(file)}`.replace(/^\/\.$/, '/');
		if (/\+(page|layout)\.server\.ts$/.test(file)) {
			const text = readFileSync(join('src/routes', file), 'utf8');
			return [`GET ${path}`, ...(text.includes('export const actions') ? [`POST ${path}`] : [])];
		}
		if (!file.endsWith('+server.ts')) return [];
		const text = readFileSync(join('src/routes', file), 'utf8');
		const methods = text.matchAll(/export const (GET|POST|PUT|PATCH|DELETE|HEAD|OPTIONS|fallback)\b/g);
		return [...methods].map((m) => `${m[1]} ${path}`);
	});
	// A page and the frame around its group are one.
	return [...new Set(routes)].sort();
}
