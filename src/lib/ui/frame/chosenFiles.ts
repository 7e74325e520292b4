import { untrack } from 'svelte';
import type { Attachment } from 'svelte/attachments';

/**
 * Takes the files that are chosen in an input, those too that were chosen before the page had come to life. Afterwards the
 * same ones may be chosen again.
 */
export function chosenFiles(take: (files: readonly File[]) => void): Attachment<HTMLInputElement> {
	return (input) => {
		const look = () => {
			const files = [...(input.files ?? [])];
			if (files.length === 0) return;
			input.value = '';
			take(files);
		};
		untrack(look);
		input.addEventListener('change', look);
		return () => input.removeEventListener('change', look);
	};
}
