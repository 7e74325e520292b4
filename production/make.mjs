// Makes a folder that runs with Node and runtime packages only. Use: make.mjs FOLDER, after both builds.
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { noticeOf } from './notice.mjs';
import { bundledPackages, runtimePackages } from './packages.mjs';

const project = resolve(dirname(fileURLToPath(import.meta.url)), '..');
/** What a school or a person starts; the demo, its stand-ins, benchmarks and training stay behind. */
const PROGRAMS = ['serve', 'mine', 'work', 'keep', 'cli', 'worker', 'database'];

const folder = process.argv[2];
if (!folder) throw new Error('Name the folder to make.');
if (existsSync(folder) && readdirSync(folder).length > 0) {
	console.error(`${folder} is not empty. Name a new folder, or empty this one first.`);
	process.exit(1);
}

const read = (path) => readFileSync(join(project, path), 'utf8');
const json = (path) => JSON.parse(read(path));

mkdirSync(join(folder, 'build-node', 'chunks'), { recursive: true });
for (const file of filesOf(PROGRAMS.map((name) => `${name}.js`))) {
	cpSync(join(project, 'build-node', file), join(folder, 'build-node', file));
}
// The text of the models' licence, which their package lacks: the same as that of another part.
cpSync(join(project, 'node_modules/pdfjs-dist/LICENSE'), join(folder, 'build-node', 'models', 'LICENSE'));
cpSync(join(project, 'build'), join(folder, 'build'), {
	recursive: true,
	filter: (path) => !path.endsWith('.map')
});
for (const file of ['membrana', 'LICENSE', 'package-lock.json'])
	cpSync(join(project, file), join(folder, file));
cpSync(join(project, '.npmrc'), join(folder, '.npmrc'));
// Without what is only needed for building: npm leaves development packages out by the same lock file.
const described = { ...json('package.json'), scripts: undefined };
writeFileSync(join(folder, 'package.json'), `${JSON.stringify(described, null, '\t')}\n`);
writeFileSync(join(folder, 'NOTICE.md'), notice());

/** Programs, every chunk that they load, and what else they name of the build: models, an empty database. */
function filesOf(programs) {
	const found = new Set(programs);
	for (const file of found) {
		if (!file.endsWith('.js')) continue;
		const code = read(join('build-node', file));
		for (const [, name] of code.matchAll(/["']\.\/(?:chunks\/)?([\w.-]+\.js)["']/g)) {
			const at = existsSync(join(project, 'build-node', 'chunks', name)) ? `chunks/${name}` : null;
			if (at) found.add(at);
		}
		for (const [, name] of code.matchAll(/["']([\w./-]+\.(?:onnx|tar\.gz))["']/g)) {
			if (existsSync(join(project, 'build-node', name))) found.add(name);
		}
	}
	return found;
}

function notice() {
	const lock = json('package-lock.json');
	const licences = ['client', 'server'].flatMap((side) => json(`.svelte-kit/output/${side}/licences.json`));
	const maps = readdirSync(join(project, 'build'), { recursive: true, encoding: 'utf8' })
		.filter((file) => file.endsWith('.map'))
		.map((file) => json(join('build', file)));
	const sources = maps.flatMap((map) => map.sources.filter((source) => typeof source === 'string'));
	return noticeOf(runtimePackages(lock), bundledPackages(licences, sources, lock));
}
