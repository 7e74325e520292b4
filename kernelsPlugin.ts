import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import asc from 'assemblyscript/asc';
import type { Plugin } from 'vite';

/** Compiled once a process: several builds and test workers ask for it. */
const compiled = new Map<string, Promise<string>>();

/** `import bytes from './assembly/index.ts?kernels'`: AssemblyScript, compiled to WebAssembly with SIMD, as bytes. */
export const kernelsPlugin: Plugin = {
	name: 'membrana-kernels',
	enforce: 'pre',
	async load(id) {
		if (!id.endsWith('?kernels')) return null;
		const path = id.slice(0, -'?kernels'.length);
		for (const file of readdirSync(dirname(path))) this.addWatchFile(join(dirname(path), file));
		let base64 = compiled.get(path);
		if (!base64) compiled.set(path, (base64 = compile(path)));
		const source = JSON.stringify(await base64);
		return { code: `export default Uint8Array.from(atob(${source}), (c) => c.charCodeAt(0));`, map: null };
	}
};

async function compile(path: string): Promise<string> {
	let binary: Uint8Array | null = null;
	const { error, stderr } = await asc.main(
		[
			'index.ts',
			'--outFile',
			'kernels.wasm',
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
			writeFile: (name, contents) => {
				if (name === 'kernels.wasm') binary = contents as Uint8Array;
			},
			listFiles: () => []
		}
	);
	if (error || !binary)
		throw new Error(`The kernels do not compile. ${error?.message ?? ''}\n${stderr.toString()}`);
	return Buffer.from(binary).toString('base64');
}
