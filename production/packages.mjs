/**
 * @typedef {object} Package
 * @property {string} name
 * @property {string} version
 * @property {string} licence as an SPDX expression
 */

/**
 * Every package that runs in production: what package.json depends on, and what that depends on, for every system.
 *
 * @param {{packages: Record<string, any>}} lock package-lock.json
 * @returns {Package[]} by name
 */
export function runtimePackages(lock) {
	const found = new Map();
	const add = (/** @type {string} */ at) => {
		if (found.has(at)) return;
		const { version, license, dependencies = {}, optionalDependencies = {} } = lock.packages[at];
		const name = at.slice(at.lastIndexOf('node_modules/') + 'node_modules/'.length);
		found.set(at, { name, version, licence: license ?? 'unknown' });
		for (const needed of Object.keys({ ...dependencies, ...optionalDependencies })) {
			const place = placeOf(lock, at, needed);
			if (place) add(place);
		}
	};
	for (const name of Object.keys(lock.packages[''].dependencies)) add(`node_modules/${name}`);
	return unique([...found.values()]);
}

/** Where Node finds a package that another one asks for: beside it, or further up. */
function placeOf(lock, from, name) {
	for (let at = from; ; at = at.slice(0, Math.max(0, at.lastIndexOf('/node_modules/')))) {
		const place = `${at === '' ? '' : `${at}/`}node_modules/${name}`;
		if (lock.packages[place]) return place;
		if (at === '') return null;
	}
}

/** Packages that say their licence in their readme only. */
const IN_README = { 'combine-errors': 'MIT' };

/**
 * What was taken into the code of pages and server.
 *
 * @param {{name: string, version: string, identifier: string}[]} licences as vite writes them
 * @param {string[]} sources files named by source maps
 * @param {{packages: Record<string, any>}} lock
 * @returns {Package[]}
 */
export function bundledPackages(licences, sources, lock) {
	const told = licences.map(({ name, version, identifier }) => ({ name, version, licence: identifier }));
	const mapped = sources.flatMap((source) => {
		const [, name] = /.*node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(source) ?? [];
		const known = name && lock.packages[`node_modules/${name}`];
		const licence = known?.license ?? IN_README[name] ?? 'unknown';
		return known ? [{ name, version: known.version, licence }] : [];
	});
	return unique([...told, ...mapped]);
}

/** @param {Package[]} packages */
export function unique(packages) {
	const byKey = new Map(packages.map((p) => [`${p.name} ${p.version}`, p]));
	return [...byKey.values()].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
}
