import { defineConfig } from '@playwright/test';

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
		launchOptions: {
			executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
			args: [
				'--headless',
				'--no-sandbox',
				'--disable-gpu',
				'--disable-quic',
				'--no-first-run',
				'--disable-background-networking',
				'--disable-component-update',
				'--disable-sync'
			]
		}
	}
});
