/** Where in a target a file goes, by the name it had when it was chosen. */
export interface Destination {
	/** An assignment's id, an address; '' where there is nothing to choose. */
	readonly to: string;
	readonly title: string;
	readonly course: string;
}

/** What a target is: a way to hand in. */
export interface TargetKind {
	/** What it is called where it is chosen. */
	readonly title: string;
	/** Where a file goes, in a few words. */
	readonly where: (destination: Destination) => string;
	/** The way that it went, as a receipt says it. */
	readonly onReceipt: (destination: Destination) => string;
	/** What it takes are assignments of its own, which may be others than the packet's. */
	readonly hasAssignments: boolean;
}

/** Every target, described once: words, forms and checks go by this. In the sequence in which they are offered. */
export const TARGET_KINDS = {
	portal: {
		title: 'Grading portal',
		where: ({ title, course }) => `${title}, ${course}`,
		onReceipt: () => 'grading portal',
		hasAssignments: true
	},
	mail: {
		title: 'Mail',
		where: ({ title, to }) => `${title}, ${to}`,
		onReceipt: ({ to }) => `mail to ${to}`,
		hasAssignments: false
	},
	folder: {
		title: 'The school’s folder',
		where: ({ to }) => (to ? `the folder ${to}` : 'the school’s folder'),
		onReceipt: ({ to }) => (to ? `folder ${to}` : 'folder of the school'),
		hasAssignments: false
	}
} as const satisfies Readonly<Record<string, TargetKind>>;

export type TargetName = keyof typeof TARGET_KINDS;
export const TARGETS = Object.keys(TARGET_KINDS) as readonly TargetName[];
