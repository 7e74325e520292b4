import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/browser/chromium';

export default defineConfig({
	testDir: 'tests/browser',
	timeout: 120_000,
	expect: { timeout: 20_000 },
	workers: 1,
	retries: 0,
	reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
	globalSetup: './tests/browser/start.ts',
	use: {
		baseURL: 'http://127.0.0.1:4373',
		viewport: { width: 1280, height: 800 },
		launchOptions: CHROMIUM
	}
});
