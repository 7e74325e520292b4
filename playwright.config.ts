import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/browser/chromium';

export default defineConfig({
	testDir: 'tests/browser',
	// Far above what anything takes on a quiet machine: a slow one is no fault of what is tested.
	timeout: 900_000,
	expect: { timeout: 300_000 },
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
