import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import asc from 'assemblyscript/asc';
import type { Plugin } from 'vite';

interface Compiled {
	readonly base64: string;
	/** Declarations of what the module exports. */
	readonly signatures: string;
}

/** Compiled once a process: several builds and test workers ask for it. */
const compiled = new Map<string, Promise<Compiled>>();

/** `import bytes from './assembly/index.ts?kernels'`: AssemblyScript, compiled to WebAssembly with SIMD, as bytes. */
export const kernelsPlugin: Plugin = {
	name: 'membrana-kernels',
	enforce: 'pre',
	async load(id) {
		if (!id.endsWith('?kernels')) return null;
		const path = id.slice(0, -'?kernels'.length);
		for (const file of readdirSync(dirname(path))) this.addWatchFile(join(dirname(path), file));
		const source = JSON.stringify((await compileKernels(path)).base64);
		return { code: `export default Uint8Array.from(atob(${source}), (c) => c.charCodeAt(0));`, map: null };
	}
};

/** @param path of the AssemblyScript that exports everything */
export function compileKernels(path: string): Promise<Compiled> {
	let module = compiled.get(path);
	if (!module) compiled.set(path, (module = compile(path)));
	return module;
}

async function compile(path: string): Promise<Compiled> {
	const written = new Map<string, string | Uint8Array>();
	const { error, stderr } = await asc.main(
		[
			'index.ts',
			'--outFile',
			'kernels.wasm',
			'--bindings',
			'raw',
			'-O3',
			'--noAssert',
			'--runtime',
			'stub',
			'--enable',
			'simd',
			'--debug'
		],
		{
			readFile: (name) => {
				try {
					return readFileSync(join(dirname(path), name), 'utf8');
				} catch {
					return null;
				}
			},
			writeFile: (name, contents) => void written.set(name, contents),
			listFiles: () => []
		}
	);
	const [binary, signatures] = [written.get('kernels.wasm'), written.get('kernels.d.ts')];
	if (error || !binary || !signatures)
		throw new Error(`The kernels do not compile. ${error?.message ?? ''}\n${stderr.toString()}`);
	return { base64: Buffer.from(binary).toString('base64'), signatures: signatures.toString() };
}
