import type { PortalAssignment } from '../src/lib/server/delivery/target';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';

// Alder Fen Field School and everybody in it are made up.

export const SCHOOL = 'Alder Fen Field School';

export const COURSE = { code: 'HY-2', title: 'Stream Hydrology' } as const;

export const TEACHER = { login: 'maren', given: 'Maren', family: 'Oskamp', password: 'reedbed' } as const;

export const ADMINISTRATOR = {
	login: 'wessel',
	given: 'Wessel',
	family: 'Hartkamp',
	password: 'towpath'
} as const;

export const STUDENTS = [
	{ login: 'ilka', given: 'Ilka', family: 'Brandsma', identifier: 'AF-2001', password: 'waterlily' },
	{ login: 'tobias', given: 'Tobias', family: 'Okoro-Lind', identifier: 'AF-2002', password: 'sandbank' },
	{ login: 'senna', given: 'Senna', family: 'Vartiainen', identifier: 'AF-2003', password: 'sandbank' },
	{ login: 'jorrit', given: 'Jorrit', family: 'Amsel', identifier: 'AF-2004', password: 'sandbank' },
	{ login: 'nadia', given: 'Nadia', family: 'Ferreyra', identifier: 'AF-2005', password: 'sandbank' },
	{ login: 'piet', given: 'Piet', family: 'Zwartveen', identifier: 'AF-2006', password: 'sandbank' },
	{ login: 'amara', given: 'Amara', family: 'Dellacroix', identifier: 'AF-2007', password: 'sandbank' },
	{ login: 'hugo', given: 'Hugo', family: 'Lindqvist', identifier: 'AF-2008', password: 'sandbank' },
	{ login: 'yara', given: 'Yara', family: 'Benhaddou', identifier: 'AF-2009', password: 'sandbank' },
	{ login: 'owen', given: 'Owen', family: 'Tresidder', identifier: 'AF-2010', password: 'sandbank' },
	{ login: 'mirthe', given: 'Mirthe', family: 'Kalverboer', identifier: 'AF-2011', password: 'sandbank' },
	{ login: 'dov', given: 'Dov', family: 'Rosenquist', identifier: 'AF-2012', password: 'sandbank' }
] as const;

/** Assignments at the portal that are not Membrana's: easily hit by accident, were it not for the confirmation. */
export function elsewhere(now: number): PortalAssignment[] {
	const due = new Date(now + 4 * 86_400_000).toISOString();
	const one = (id: string, course: string, title: string) => ({
		id,
		course,
		title,
		due,
		grace: 0,
		strict: true
	});
	return [
		one('hy2-w3-b', 'HY-2', 'Worksheet 3b: Gauging the Leat'),
		one('bo1-h2', 'BO-1', 'Herbarium sheet 2'),
		one('su3-t1', 'SU-3', 'Traverse of the Long Dyke')
	];
}

/** Due times lie ahead of whenever the demo is started. */
export function ruleSheets(now: number): Record<'lode' | 'levelling' | 'rainfall' | 'quiz', RuleSheet> {
	const due = (days: number, hour: number) => {
		const date = new Date(now + days * 86_400_000);
		date.setUTCHours(hour - 1, 0, 0, 0);
		return `${new Date(date.getTime() + 3_600_000).toISOString().slice(0, 19)}+01:00`;
	};
	return {
		lode: {
			title: 'Worksheet 3: Gauging the Lode',
			course: COURSE.code,
			due: due(2, 18),
			questions: [
				{ label: '1', marks: 6 },
				{
					label: '2',
					parts: [
						{ label: 'a', marks: 3 },
						{ label: 'b', marks: 3 }
					]
				},
				{ label: '3', marks: 8, newPage: true },
				{ label: '4', marks: 5 }
			],
			pages: { min: 3, max: 6, size: 'A4' },
			file: { namePattern: '{family}_{given}_{course}_W3', type: 'pdf', maxBytes: 5_000_000 },
			tone: ['greyscale', 'black-and-white'],
			legibility: 'doubtful',
			levels: { pageCount: 'blocks', duplicates: 'look', legibility: 'look' }
		},
		levelling: {
			title: 'Worksheet 2: Levelling the Weir',
			course: COURSE.code,
			due: due(5, 12),
			questions: [
				{ label: '1', marks: 10 },
				{ label: '2', marks: 5 },
				{ label: '3', marks: 5 }
			],
			pages: { min: 2, max: 5, size: 'A4' },
			file: { namePattern: '{family}_{given}_{course}_W2', type: 'pdf', maxBytes: 4_000_000 },
			legibility: 'doubtful'
		},
		rainfall: {
			title: 'Worksheet 1: Reading the Rain Gauge',
			course: COURSE.code,
			due: due(9, 18),
			questions: [
				{ label: '1', marks: 4 },
				{ label: '2', marks: 6 }
			],
			pages: { min: 1, max: 3, size: 'A4' },
			file: { namePattern: '{family}_{given}_{course}_W1', type: 'pdf', maxBytes: 4_000_000 },
			tone: ['black-and-white']
		},
		quiz: {
			title: 'Timed quiz: Reading a Hydrograph',
			course: COURSE.code,
			workUntil: due(3, 10),
			due: due(3, 10).replace(':00:00', ':15:00'),
			grace: 5,
			questions: [
				{ label: '1', marks: 4 },
				{ label: '2', marks: 4 }
			],
			pages: { min: 1, max: 2 },
			file: { namePattern: '{family}_{given}_{course}_Quiz', type: 'pdf', maxBytes: 4_000_000 }
		}
	};
}
