import { sveltekit } from '@sveltejs/kit/vite';
import { defineConfig } from 'vite';

export default defineConfig({
	plugins: [sveltekit()],
	worker: { format: 'es' },
	build: { chunkSizeWarningLimit: 900 },
	ssr: { external: ['@electric-sql/pglite', 'sharp', 'piscina', 'pg-boss', '@napi-rs/canvas', 'pdfjs-dist'] }
});
