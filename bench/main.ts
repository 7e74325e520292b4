import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { benchAskew } from './askew';
import { benchBend } from './bend';
import { benchCamera } from './camera';
import type { Part } from '../training/hands';
import { fitAlike } from './fit/alike';
import { fitConfusions } from './fit/confusions';
import { fitNames, fitNumbers } from './fit/header';
import { fitLabels } from './fit/labels';
import { fitOrder } from './fit/order';
import { fitSequence } from './fit/sequence';
import { fitStrange } from './fit/strange';
import { fitSheets } from './fit/sheets';
import { benchFolds } from './folds';
import { benchHiddenNames, drawnStacks } from './hiddenNames';
import { benchBlackAndWhite, benchLegibility } from './legibility';
import { benchLoad } from './load';
import { benchOutlines } from './outlines';
import { benchPile } from './pile';
import { benchPreparation } from './preparation';
import { benchReading } from './reading';
import { benchReadingTime } from './readingTime';
import { benchFills } from './fills';
import { benchFrames } from './frames';
import { benchReal } from './real';
import { benchScale } from './scale';
import { benchSheets } from './sheets';
import { benchShortWriting } from './shortWriting';
import { benchStacks } from './stacks/main';
import { benchStrange } from './strange';
import { fitSameHand } from './fit/sameHand';
import { benchTurns } from './turns';
import { benchWaiting } from './waiting';
import { HABITS, type HabitsName } from './habits';
import type { Writers } from './writers';

const [, , what = 'all', ...rest] = process.argv;
// What is measured works with the build that this is part of.
process.env.MEMBRANA_NODE_BUILD ??= dirname(fileURLToPath(import.meta.url));
/** Whose hands: the demo's, or those of one part with the fonts' digits or with real people's; and what habits. */
function writersOf(hands = 'demo', digits = 'people', habits?: string): Writers {
	if (hands === 'demo') return { hands };
	return {
		hands: hands as Part,
		digits: digits === 'fonts' ? 'fonts' : 'people',
		habits: habitsNamed(habits)
	};
}
function habitsNamed(name: string | undefined): HabitsName | undefined {
	if (name === undefined || name in HABITS) return name as HabitsName | undefined;
	throw new Error(`There are no habits “${name}”; there are ${Object.keys(HABITS).join(', ')}.`);
}

const print = (line: string) => console.log(line);

if (what === 'all' || what === 'preparation') await benchPreparation(print);
if (what === 'all' || what === 'waiting') await benchWaiting(Number(rest[0] ?? 48), print);
if (what === 'all' || what === 'outlines')
	benchOutlines(Number(rest[0] ?? 5), Number(rest[1] ?? 5000), print);
if (what === 'all' || what === 'sheets') benchSheets(Number(rest[0] ?? 3), Number(rest[1] ?? 30_000), print);
if (what === 'all' || what === 'turns')
	await benchTurns(Number(rest[0] ?? 120), Number(rest[1] ?? 9000), print);
if (what === 'all' || what === 'folds') benchFolds(Number(rest[0] ?? 30), Number(rest[1] ?? 6000), print);
if (what === 'all' || what === 'askew') benchAskew(Number(rest[0] ?? 4), Number(rest[1] ?? 6500), print);
if (what === 'all' || what === 'bend') benchBend(Number(rest[0] ?? 6), Number(rest[1] ?? 4200), print);
if (what === 'all' || what === 'legibility')
	await benchLegibility(Number(rest[0] ?? 2), Number(rest[1] ?? 700), print);
if (what === 'all' || what === 'black-and-white')
	await benchBlackAndWhite(Number(rest[0] ?? 10), Number(rest[1] ?? 800), print);
if (what === 'all' || what === 'reading')
	for (const hands of rest[2] === 'both' ? ['training', 'test'] : [rest[2]]) {
		if (rest[2] === 'both') print(`in hands that were ${hands === 'test' ? 'never ' : ''}seen in training:`);
		const writers = writersOf(hands, rest[3], rest[4]);
		await benchReading(Number(rest[0] ?? 3), Number(rest[1] ?? 20_000), writers, print);
	}
// Draws in hands that are installed beside, and keeps what it looked at.
if (what === 'short-writing')
	await benchShortWriting(
		(rest[0] ?? 'test') as Part,
		Number(rest[1] ?? 34),
		Number(rest[2] ?? 810_000),
		habitsNamed(rest[3]),
		print
	);
if (what === 'strange')
	await benchStrange((rest[0] ?? 'test') as Part, Number(rest[1] ?? 16), Number(rest[2] ?? 830_000), print);
if (what === 'all' || what === 'reading-time') await benchReadingTime(print);
if (what === 'scale') await benchScale(print);
// Needs a browser and the whole application, so it is asked for by name.
if (what === 'camera') benchCamera(print);
// Starts the built application and a class of students.
if (what === 'load') await benchLoad(Number(rest[0] ?? 30), Number(rest[1] ?? 10), print);
// Draws in hands that are installed beside; each page takes seconds the first time.
if (what === 'stacks')
	await benchStacks(
		Number(rest[0] ?? 6),
		Number(rest[1] ?? 901),
		(rest[2] ?? 'test') as Part,
		Number(rest[3] ?? 11),
		rest[4] === 'other' ? 'other' : 'usual',
		print
	);
if (what === 'names')
	await benchHiddenNames(
		drawnStacks(
			Number(rest[0] ?? 4),
			Number(rest[1] ?? 1201),
			(rest[2] ?? 'test') as Part,
			Number(rest[3] ?? 10),
			rest[4] === 'other' ? 'other' : 'usual'
		),
		print
	);
if (what === 'fit' && rest[0] === 'hands')
	await fitSameHand((rest[1] ?? 'tuning') as Part, Number(rest[2] ?? 8), Number(rest[3] ?? 501), print);
if (what === 'fit' && rest[0] === 'confusions')
	await fitConfusions(
		(rest[1] ?? 'tuning') as Part,
		Number(rest[2] ?? 20_000),
		Number(rest[3] ?? 980_000),
		print
	);
// Takes long, and prints numbers for the code.
if (what === 'fit' && rest[0] === 'sheets')
	fitSheets(Number(rest[1] ?? 14), Number(rest[2] ?? 400_000), print);
// In hands that were not trained on, and that the benchmark does not use.
const fits = {
	labels: fitLabels,
	alike: fitAlike,
	sequence: fitSequence,
	order: fitOrder,
	numbers: fitNumbers,
	names: fitNames,
	strange: fitStrange
};
const reading = rest[0] && rest[0] in fits ? fits[rest[0] as keyof typeof fits] : undefined;
if (what === 'fit' && reading)
	await reading((rest[1] ?? 'tuning') as Part, Number(rest[2] ?? 30), Number(rest[3] ?? 410_000), print);
if (what === 'frames') benchFrames(Number(rest[0] ?? 40), Number(rest[1] ?? 1001), print);
if (what === 'fills') benchFills(Number(rest[0] ?? 4), Number(rest[1] ?? 640_001), print);
// Starts the built application and a browser.
if (what === 'stack-screen')
	await (await import('./stackScreen')).benchStackScreen(Number(rest[0] ?? 600), print);
// Starts a browser.
if (what === 'browser')
	await (
		await import('./browser/main')
	).benchBrowser(
		(rest[0] ?? 'tuning') as Part,
		Number(rest[1] ?? 14),
		Number(rest[2] ?? 1_000_001),
		rest[3] ?? null,
		print
	);
if (what === 'browser-stacks' || what === 'browser-names')
	await (
		await import('./browser/stacks')
	).benchBrowserStacks(
		what === 'browser-names' ? 'names' : 'cuts',
		{
			part: (rest[0] ?? 'tuning') as Part,
			stacks: Number(rest[1] ?? 6),
			firstSeed: Number(rest[2] ?? 1_100_001),
			most: Number(rest[3] ?? 10),
			desks: rest[4] ?? null
		},
		print
	);
if (what === 'pile') await benchPile(Number(rest[0] ?? 180), print);
// On pictures that do not come with the project.
if (what === 'real') await benchReal(rest[0] ?? '.', print);
