const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Compares file names as people number them: "scan 2" before "scan 10". */
export function byName(a: string, b: string): number {
	return collator.compare(a, b);
}
