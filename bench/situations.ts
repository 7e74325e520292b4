import type { PhotographSpec } from '../demo/generator/photograph';
import { hands } from '../demo/generator/hands';
import { Random } from '../demo/generator/random';
import { writtenPage, type PageSpec, type WrittenPage } from '../demo/generator/writtenPage';

/** The situations in which outlines are measured. */
export const SITUATIONS = [
	'plain wood',
	'dark desk',
	'white on white',
	'checked cloth',
	'stone',
	'sheet underneath',
	'hard shadow',
	'finger over an edge',
	'keystone',
	'small in the picture',
	'a third of it',
	'fills the picture',
	'clutter',
	'pen over an edge',
	'dog-eared corner',
	'torn corner'
] as const;
export type Situation = (typeof SITUATIONS)[number];

const WORDS =
	'the lode runs slower near the reeds so we took three verticals and read the meter for sixty seconds at each depth then averaged both readings to get a mean velocity before area and error'.split(
		' '
	);

/** A page of made-up writing. */
export function specimenPage(seed: number, scale = 8, change: Partial<PageSpec> = {}): WrittenPage {
	const random = new Random(seed);
	const sentence = () => Array.from({ length: random.whole(5, 7) }, () => random.pick(WORDS)).join(' ');
	return writtenPage({
		seed,
		hand: random.pick(hands()),
		paper: 'A4',
		ruling: random.pick(['ruled', 'squared', 'plain'] as const),
		ink: random.pick([
			[28, 34, 82],
			[20, 20, 24],
			[70, 70, 74]
		] as const),
		name: 'Ilka Brandsma',
		pageNumber: `p. ${random.whole(1, 4)}/4`,
		scale,
		blocks: [
			{ kind: 'label', text: 'Q1' },
			{ kind: 'text', lines: Array.from({ length: random.whole(6, 14) }, sentence) },
			{ kind: 'space', lines: 1 },
			{ kind: 'label', text: 'Q2' },
			{ kind: 'text', lines: Array.from({ length: random.whole(3, 9) }, sentence) }
		],
		...change
	});
}

const DESKS = ['wood', 'dark', 'white', 'stone'] as const;

/** How a page is photographed in a situation. */
export function situationSpec(
	situation: Situation,
	seed: number,
	size: readonly [number, number]
): PhotographSpec {
	const random = new Random(seed + 7);
	const spec: PhotographSpec = {
		seed,
		size,
		desk: 'wood',
		fill: random.between(0.7, 0.92),
		slant: random.between(-7, 7),
		tilt: random.between(0, 10),
		shift: [random.between(-0.02, 0.02), random.between(-0.02, 0.02)],
		falloff: random.between(0.1, 0.45),
		warmth: random.between(0, 1),
		blur: random.between(0, 1.2),
		noise: random.between(1, 4),
		lies: random.pick([0, 0, 0, 90, 180, 270] as const)
	};
	switch (situation) {
		case 'plain wood':
			return spec;
		case 'dark desk':
			return { ...spec, desk: 'dark' };
		case 'white on white':
			return { ...spec, desk: 'white' };
		case 'checked cloth':
			return { ...spec, desk: 'cloth' };
		case 'stone':
			return { ...spec, desk: 'stone' };
		case 'sheet underneath':
			return { ...spec, desk: random.pick(['wood', 'dark', 'white'] as const), underneath: true, fill: 0.75 };
		case 'hard shadow':
			return {
				...spec,
				desk: random.pick(['wood', 'white', 'stone'] as const),
				shadow: random.between(0.6, 1)
			};
		case 'finger over an edge':
			return { ...spec, finger: true };
		case 'keystone':
			return {
				...spec,
				desk: random.pick(['wood', 'dark', 'white'] as const),
				tilt: random.between(15, 25),
				fill: 0.75
			};
		case 'small in the picture':
			return { ...spec, fill: random.between(0.38, 0.55), slant: random.between(-15, 15) };
		case 'a third of it':
			return { ...spec, desk: random.pick(DESKS), fill: random.between(0.3, 0.36) };
		case 'fills the picture':
			return { ...spec, desk: random.pick(DESKS), fill: 0.98, slant: random.between(-1, 1), tilt: 2 };
		case 'clutter':
			return { ...spec, desk: random.pick(DESKS), clutter: true };
		case 'pen over an edge':
			return { ...spec, desk: random.pick(DESKS), pen: true };
		case 'dog-eared corner':
			return { ...spec, desk: random.pick(DESKS), corner: 'dog-ear' };
		case 'torn corner':
			return { ...spec, desk: random.pick(DESKS), corner: 'torn' };
	}
}
