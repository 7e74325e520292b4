/** Debian's Chromium, kept from calling home. */
export const CHROMIUM = {
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
};
