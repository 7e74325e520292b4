/** One line of a packet's history, without its change. */
export interface HistoryEntry {
	readonly version: number;
	/** `machine`: pages taken in; such entries are not undone. */
	readonly kind: 'edit' | 'undo' | 'redo' | 'machine';
	/** For undo and redo: the version of the edit meant. */
	readonly target: number | null;
}

/** The edits that can be undone and redone now, as versions; the last of each list comes first. */
export interface UndoStacks {
	readonly undo: readonly number[];
	readonly redo: readonly number[];
}

/** Reads the stacks off a history: an edit ends what could be redone, as everywhere. */
export function undoStacks(history: readonly HistoryEntry[]): UndoStacks {
	const undo: number[] = [];
	const redo: number[] = [];
	for (const entry of history) {
		switch (entry.kind) {
			case 'edit':
				undo.push(entry.version);
				redo.length = 0;
				break;
			case 'undo':
				if (undo.at(-1) === entry.target) redo.push(undo.pop()!);
				break;
			case 'redo':
				if (redo.at(-1) === entry.target) undo.push(redo.pop()!);
				break;
			case 'machine':
				break;
		}
	}
	return { undo, redo };
}
