import { fileURLToPath } from 'node:url';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';
import { emptyDatabasePlugin } from './emptyDatabasePlugin.ts';
import { kernelsPlugin } from './kernelsPlugin.ts';
import { modelsPlugin } from './modelsPlugin.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
	assetsInclude: ['**/*.onnx'],
	plugins: [kernelsPlugin, modelsPlugin, emptyDatabasePlugin, svelte()],
	resolve: {
		alias: { $lib: here('./src/lib'), $core: here('./src/lib/core'), $server: here('./src/lib/server') }
	},
	test: {
		include: [
			'src/**/*.test.ts',
			'{bench,demo,models,training}/**/*.test.ts',
			'standins/**/*.test.ts',
			'cli/**/*.test.ts',
			'tests/{http,source}/**/*.test.ts'
		],
		globalSetup: ['tests/support/seededFolder.ts'],
		// Nothing here changes a module: what one file has loaded serves the next.
		isolate: false,
		testTimeout: 300_000,
		hookTimeout: 300_000,
		// Machines stand still for seconds at times.
		expect: { poll: { timeout: 60_000 } },
		maxWorkers: 2
	}
});
