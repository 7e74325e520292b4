import type { Task } from '$lib/core/rules/finding';

/** One stop: where it is, what there is to see, and what to try. */
export interface Stop {
	readonly task: Task;
	readonly see: string;
	readonly attempt: string;
}

/** The demo's photographs, from the first to the receipt. */
export const STOPS: readonly Stop[] = [
	{
		task: 'gather',
		see: 'Five photographs of one worksheet: askew, one lying on its side, one blurred and taken twice.',
		attempt: 'Press “Use the five demo photographs”, and see them come onto the strip below.'
	},
	{
		task: 'square',
		see: 'The sheet was found in its photograph, flattened and turned upright. Left is what came, right what it became.',
		attempt: 'Drag a corner, or press t to turn. Ctrl+Z takes it back.'
	},
	{
		task: 'tone',
		see: 'Shadow and the colour of the lamp are gone; ink and pencil stay. The shape beside the page tells how well it reads.',
		attempt: 'Choose black and white, and zoom in with +.'
	},
	{
		task: 'order',
		see: 'Numbers and questions were read off the pages. A proposal says what would move and why; nothing moves by itself.',
		attempt: 'Take the order that was read, or drag a page on the strip.'
	},
	{
		task: 'map',
		see: 'A dashed line stands where an answer was found to begin. What is unsure says so.',
		attempt: 'Press “Confirm all”, or n and Enter for one after the other.'
	},
	{
		task: 'hand-in',
		see: 'The file is made and shown as it will be handed in. The rule sheet on the right has led here.',
		attempt: 'Hand it in: the demo’s portal is a stand-in, and answers with a receipt.'
	}
];

/** A walk through the demo that somebody takes, and may leave at any time. */
class Tour {
	/** Which stop, from 0; null while nobody takes it. */
	at = $state<number | null>(null);
	readonly stop = $derived(this.at === null ? null : (STOPS[this.at] ?? null));

	begin(): void {
		this.at = 0;
	}
	leave(): void {
		this.at = null;
	}
	/** @returns the task to go to; null at the end */
	go(by: 1 | -1): Task | null {
		const next = this.at === null ? -1 : this.at + by;
		this.at = next >= 0 && next < STOPS.length ? next : null;
		return this.stop?.task ?? null;
	}
	/** Whoever goes to another task on their own is followed. */
	follow(task: Task): void {
		if (this.at === null || STOPS[this.at]!.task === task) return;
		const there = STOPS.findIndex((stop) => stop.task === task);
		if (there >= 0) this.at = there;
	}
}

export const tour = new Tour();
