// What is pressed or chosen while the page has not come to life yet is done once it has.
(() => {
	const pressed = new Set();
	const chosen = new Set();
	const press = ({ target, isTrusted }) => {
		const button = isTrusted && target instanceof Element && target.closest('button:not(:disabled)');
		// What sends a form needs no life; pressed twice because nothing came of it is pressed once.
		if (button && !button.form) pressed.add(button);
	};
	const choose = ({ target, isTrusted }) => {
		if (isTrusted && target instanceof HTMLInputElement && target.type === 'file') chosen.add(target);
	};
	addEventListener('click', press, true);
	addEventListener('change', choose, true);
	addEventListener(
		'membrana:alive',
		() => {
			removeEventListener('click', press, true);
			removeEventListener('change', choose, true);
			for (const input of chosen) {
				if (input.isConnected && input.files.length > 0)
					input.dispatchEvent(new Event('change', { bubbles: true }));
			}
			for (const button of pressed) if (button.isConnected) button.click();
		},
		{ once: true }
	);
})();
