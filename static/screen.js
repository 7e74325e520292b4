// Before anything is drawn: by day or by night, as the person chose here, else as the device is set.
(() => {
	let chosen = null;
	try {
		chosen = localStorage.getItem('membrana-screen');
	} catch {
		// Nothing is remembered here.
	}
	const night = chosen ? chosen === 'night' : matchMedia('(prefers-color-scheme: dark)').matches;
	document.documentElement.setAttribute('theme', night ? 'g100' : 'g10');
})();
