import type { Change } from '../../packet/change';
import { foundTurn, SURE_TURN, turnOf } from '../../page/effective';
import type { PictureFacts } from '../../page/preparePage';
import type { Turn } from '../../sheet/turn';
import { capital, namePages, type PagesInput, type Finding, type Fix } from '../finding';
import { levelOf } from '../ruleSheet';

/** A page whose writing does not tell which way is up. */
interface Unsure {
	readonly position: number;
	readonly page: string;
	readonly turn: Turn;
	/** As other pictures of its shape had to be turned; null where they do not agree. */
	readonly likeOthers: Turn | null;
}

/** Every page is upright; where the writing did not tell, a person has to have set the turn. */
export function upright(input: PagesInput): Finding {
	const unsure = unsurePages(input);
	if (unsure.length === 0) {
		return { rule: 'upright', level: 'clear', message: 'Every page is upright', pages: [] };
	}
	const positions = unsure.map((u) => u.position);
	const first = unsure[0]!.page;
	const look: Fix = { label: `Look at page ${positions[0]}`, task: 'square', page: first };
	return {
		rule: 'upright',
		level: levelOf(input.sheet, 'upright'),
		message: `${capital(namePages(positions))}: the writing does not tell which way is up.`,
		pages: positions,
		fix: turnLikeOthers(unsure) ?? look,
		otherwise: {
			label: unsure.length === 1 ? 'It is upright as it lies' : 'They are upright as they lie',
			task: 'square',
			page: first,
			change: turnAll(unsure.map(({ page, turn }) => [page, turn]))
		}
	};
}

function turnAll(turns: readonly (readonly [page: string, turn: Turn])[]): Change {
	return { kind: 'together', changes: turns.map(([page, turn]) => ({ kind: 'setTurn', page, turn })) };
}

/** Photographed in one go, pages lie the same way: where all that were told had to be turned, these probably do too. */
function turnLikeOthers(unsure: readonly Unsure[]): Fix | null {
	const turned = unsure.flatMap(({ position, page, turn, likeOthers }) =>
		likeOthers === null || likeOthers === turn ? [] : [{ position, page, likeOthers }]
	);
	if (turned.length === 0) return null;
	return {
		label: `Turn ${namePages(turned.map((t) => t.position))} like the others`,
		task: 'square',
		page: turned[0]!.page,
		change: turnAll(turned.map(({ page, likeOthers }) => [page, likeOthers]))
	};
}

function unsurePages({ packet, evidence }: PagesInput): Unsure[] {
	const unsure: { position: number; page: string; turn: Turn; lying: boolean }[] = [];
	const told = { lying: [] as Turn[], standing: [] as Turn[] };
	packet.strip.forEach((page, i) => {
		const known = evidence[page];
		const settings = packet.pages[page];
		if (!known?.picture || known.prepared?.blank || !settings) return;
		const turn = turnOf(settings, known.picture);
		const lying = isLying(known.picture);
		if (settings.turn === null && foundTurn(known.picture).confidence < SURE_TURN) {
			unsure.push({ position: i + 1, page, turn, lying });
		} else told[lying ? 'lying' : 'standing'].push(turn);
	});
	return unsure.map(({ lying, ...page }) => ({
		...page,
		likeOthers: agreed(told[lying ? 'lying' : 'standing'])
	}));
}

function isLying({ width, height }: PictureFacts): boolean {
	return width > height;
}

/** What two or more say, and all of them. */
function agreed(turns: readonly Turn[]): Turn | null {
	const [first] = turns;
	return first !== undefined && turns.length > 1 && turns.every((turn) => turn === first) ? first : null;
}
