import type { Change } from '../../packet/change';
import type { Packet } from '../../packet/packet';
import type { TextLine } from '../../reading/pageReading';
import { bytesInFile, type PageWeight } from '../../size/pageWeights';
import { planSizes, type SizePlan } from '../../size/sizePlan';
import { formatBytes } from '../formatBytes';
import type { PageRecord } from '../../page/pageRecord';
import { capital, namePages, plural, type Finding, type PagesInput } from '../finding';
import { predictedBytes } from '../predictedBytes';
import { levelOf } from '../ruleSheet';

/** A file is planned to stay this much under its limit: what is foretold is not exact to the byte. */
const MARGIN = 0.01;

interface Sized {
	readonly position: number;
	readonly page: string;
	readonly bytes: number;
	readonly weights: readonly PageWeight[] | null;
	readonly lines: readonly TextLine[];
}

/** The file stays under the limit. Counted from the encoded pages themselves; where it does not, a plan makes it fit. */
export function fileSize(input: PagesInput): Finding {
	const { sheet } = input;
	const limit = sheet.file?.maxBytes;
	const { sizes, waiting } = sizesOf(input);
	const bytes = predictedBytes(sizes);
	const of = limit ? ` of ${formatBytes(limit)}` : '';
	if (limit && bytes > limit) return tooLarge(input, sizes, bytes, limit);
	if (waiting.length > 0) {
		const isBroken = waiting.every((i) => input.evidence[input.packet.strip[i - 1]!]?.problem);
		return {
			rule: 'fileSize',
			level: isBroken ? 'look' : 'open',
			message: `At least ${formatBytes(bytes)}${of}; ${namePages(waiting)} ${isBroken ? `not counted, as ${waiting.length === 1 ? 'it' : 'they'} cannot be prepared` : 'still being prepared'}.`,
			pages: waiting
		};
	}
	const smaller = sizes.filter((s) => input.packet.pages[s.page]?.encoding);
	const note = smaller.length > 0 ? `; ${namePages(smaller.map((s) => s.position))} made smaller to fit` : '';
	return { rule: 'fileSize', level: 'clear', message: `About ${formatBytes(bytes)}${of}${note}`, pages: [] };
}

/** Whether the file is too large as it is: then its pages have to be weighed. */
export function isTooLarge(input: SizesInput & Pick<PagesInput, 'sheet'>): boolean {
	const limit = input.sheet.file?.maxBytes;
	return limit !== undefined && predictedBytes(sizesOf(input).sizes) > limit;
}

/** The part of a page's evidence that its size comes from. */
type Weighty = Pick<PageRecord, 'bytes' | 'weights' | 'reading'>;

interface SizesInput {
	readonly packet: Packet;
	readonly evidence: Readonly<Record<string, Weighty | undefined>>;
}

function sizesOf({ packet, evidence }: SizesInput) {
	const waiting: number[] = [];
	const sizes: Sized[] = [];
	packet.strip.forEach((page, i) => {
		const known = evidence[page];
		const weights = known?.weights ?? null;
		const bytes = bytesInFile(packet.pages[page]?.encoding, known?.bytes ?? null, weights);
		if (bytes === null) waiting.push(i + 1);
		else sizes.push({ position: i + 1, page, bytes, weights, lines: known?.reading?.lines ?? [] });
	});
	return { sizes, waiting };
}

function tooLarge({ sheet, packet }: PagesInput, sizes: Sized[], bytes: number, limit: number): Finding {
	const level = levelOf(sheet, 'fileSize');
	const heaviest = [...sizes].sort((a, b) => b.bytes - a.bytes);
	const first = heaviest[0]!;
	const about = `About ${formatBytes(bytes)} of ${formatBytes(limit)}.`;
	if (sizes.length < packet.strip.length || sizes.some((s) => !s.weights?.length)) {
		return {
			rule: 'fileSize',
			level,
			message: `${about} Membrana is working out how to make it fit with the least loss.`,
			pages: [first.position],
			fix: { label: 'Change the tone by hand', task: 'tone', page: first.page }
		};
	}
	const rest = predictedBytes(sizes.map((s) => ({ ...s, bytes: 0 })));
	const plan = planSizes(
		sizes.map((s) => s.weights!),
		limit * (1 - MARGIN) - rest
	);
	if (!plan.fits) {
		const most = heaviest.slice(0, 3).map((s) => s.position);
		return {
			rule: 'fileSize',
			level,
			message: `${about} Even in the smallest form that can still be read it is ${formatBytes(plan.bytes + rest)}. ${capital(namePages(most.sort((a, b) => a - b)))} ${most.length === 1 ? 'takes' : 'take'} most: set aside what is not needed, or ask for a larger limit.`,
			pages: most,
			fix: { label: 'Go to the heaviest page', task: 'order', page: first.page }
		};
	}
	const changed = sizes.filter((s, i) => isCoarser(s.weights![plan.choice[i]!]!));
	return {
		rule: 'fileSize',
		level,
		message: `${about} With ${namePages(changed.map((s) => s.position))} kept less finely it is ${formatBytes(plan.bytes + rest)}; the writing keeps at least ${Math.floor((1 - plan.worst) * 100)} % of its contrast.`,
		pages: changed.map((s) => s.position),
		fix: {
			label: `Make ${plural(changed.length, 'page')} smaller`,
			task: 'tone',
			change: planChange(sizes, plan)
		}
	};
}

const isCoarser = (w: PageWeight) => w.encoding !== null || w.tone !== null;

function planChange(sizes: readonly Sized[], plan: SizePlan): Change {
	return {
		kind: 'together',
		changes: sizes.flatMap(({ page, weights }, i): Change[] => {
			const { tone, encoding } = weights![plan.choice[i]!]!;
			const encode: Change = { kind: 'setEncoding', page, encoding };
			return tone ? [{ kind: 'setTone', page, tone }, encode] : [encode];
		})
	};
}
