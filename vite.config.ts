import { sveltekit } from '@sveltejs/kit/vite';
import { optimizeCss } from 'carbon-preprocess-svelte';
import { defineConfig, type Plugin } from 'vite';
import { kernelsPlugin } from './kernelsPlugin.ts';

/** Carbon's style sheet names fonts on another host; ours ship with the application. */
const withoutRemoteFonts: Plugin = {
	name: 'membrana-without-remote-fonts',
	enforce: 'pre',
	transform(code, id) {
		if (!/carbon-components-svelte\/css\/.*\.css/.test(id)) return null;
		return { code: code.replace(/@font-face\s*\{[^}]*\}/g, ''), map: null };
	}
};

export default defineConfig({
	assetsInclude: ['**/*.onnx'],
	plugins: [kernelsPlugin, withoutRemoteFonts, sveltekit(), optimizeCss()],
	worker: { format: 'es', plugins: () => [kernelsPlugin] },
	build: { chunkSizeWarningLimit: 900, license: { fileName: 'licences.json' } },
	ssr: {
		noExternal: ['carbon-components-svelte', 'carbon-icons-svelte'],
		external: [
			'@electric-sql/pglite',
			'sharp',
			'pg-boss',
			'@napi-rs/canvas',
			'pdfjs-dist',
			'onnxruntime-node'
		]
	}
});
