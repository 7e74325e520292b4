import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';
import { emptyDatabasePlugin } from './emptyDatabasePlugin.ts';
import { kernelsPlugin } from './kernelsPlugin.ts';
import { modelsPlugin } from './modelsPlugin.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** Everything that runs in Node beside the web server: worker pool, command line, stand-ins, demo, benchmarks. */
export default defineConfig({
	publicDir: false,
	assetsInclude: ['**/*.onnx'],
	plugins: [kernelsPlugin, modelsPlugin, emptyDatabasePlugin],
	resolve: {
		alias: { $core: here('./src/lib/core'), $server: here('./src/lib/server'), $lib: here('./src/lib') }
	},
	build: {
		ssr: true,
		ssrEmitAssets: true,
		outDir: 'build-node',
		target: 'node20',
		minify: false,
		rollupOptions: {
			input: {
				worker: here('./src/lib/server/work/worker.ts'),
				database: here('./src/lib/server/store/pgliteThread.ts'),
				cli: here('./cli/main.ts'),
				portal: here('./standins/portal/main.ts'),
				demo: here('./demo/main.ts'),
				serve: here('./cli/serve.ts'),
				mine: here('./cli/mine.ts'),
				work: here('./cli/work.ts'),
				keep: here('./cli/keep.ts'),
				bench: here('./bench/main.ts'),
				training: here('./training/main.ts')
			},
			output: { entryFileNames: '[name].js', chunkFileNames: 'chunks/[name]-[hash].js' }
		}
	}
});
