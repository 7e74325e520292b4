import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/browser/chromium';

export default defineConfig({
	testDir: 'tests/browser',
	timeout: 120_000,
	expect: { timeout: 20_000 },
	// Every file signs in as people of its own; the portal's faults are over before the last files begin.
	workers: 2,
	retries: 0,
	reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
	globalSetup: './tests/browser/start.ts',
	use: {
		baseURL: 'http://127.0.0.1:4373',
		viewport: { width: 1280, height: 800 },
		launchOptions: CHROMIUM
	}
});
