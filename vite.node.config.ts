import { fileURLToPath } from 'node:url';
import { defineConfig, type Plugin } from 'vite';
import { kernelsPlugin } from './kernelsPlugin.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/**
 * What the pool loads: piscina requires its file, and Node 20 dies when a thread is ended while it requires an
 * ES module. This is none; the steps themselves are imported, at once, and waited for by the first call.
 */
const poolEntry: Plugin = {
	name: 'membrana-pool-entry',
	generateBundle() {
		const source = `const steps = import('./worker.js');
steps.catch(() => undefined);
for (const name of ['takeIn', 'unpack', 'prepare', 'flat', 'read', 'readText', 'makeFile', 'weigh', 'filePage', 'lock', 'receipt']) {
	exports[name] = async (input) => (await steps)[name](input);
}
`;
		this.emitFile({ type: 'asset', fileName: 'pool.cjs', source });
	}
};

/** Everything that runs in Node beside the web server: worker pool, command line, stand-ins, demo, benchmarks. */
export default defineConfig({
	publicDir: false,
	plugins: [kernelsPlugin, poolEntry],
	resolve: {
		alias: { $core: here('./src/lib/core'), $server: here('./src/lib/server'), $lib: here('./src/lib') }
	},
	build: {
		ssr: true,
		outDir: 'build-node',
		target: 'node20',
		minify: false,
		rollupOptions: {
			input: {
				worker: here('./src/lib/server/work/worker.ts'),
				cli: here('./cli/main.ts'),
				portal: here('./standins/portal/main.ts'),
				demo: here('./demo/main.ts'),
				serve: here('./cli/serve.ts'),
				bench: here('./bench/main.ts')
			},
			output: { entryFileNames: '[name].js', chunkFileNames: 'chunks/[name]-[hash].js' }
		}
	}
});
