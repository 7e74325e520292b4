import type { Random } from '../../demo/generator/random';
import type { Feeding } from '../../src/lib/core/stack/feeding';

/** One side of paper in a stack, and the truth about it. */
export interface PiledPage {
	/** Whose it is; null of a page of another assignment. */
	readonly owner: string | null;
	/** Whether that person's name stands on it. */
	readonly named: boolean;
	readonly role: 'page' | 'blank' | 'twice' | 'stray' | 'other';
	/** Degrees it lies turned in the feeder. */
	readonly lies: 0 | 180;
}

/** A stack, its pages in the order in which they are fed. */
export interface TrueStack<P extends PiledPage = PiledPage> {
	readonly seed: number;
	readonly pages: readonly P[];
	readonly feeding: Feeding;
}

/** What a stack is piled up from. */
export interface Piling<P extends PiledPage> {
	/** What each person wrote, in order; nobody's are empty. */
	readonly packets: readonly (readonly P[])[];
	/** Both sides of the paper are fed. */
	readonly isDuplex: boolean;
	/** An empty side among somebody's; null: among nobody's. */
	readonly blank: (owner: string | null) => P;
	/** A page of another assignment. */
	readonly other: () => P;
}

/** Piles up a class's packets, with what goes wrong in piles, and says what did. */
export function pileUp<P extends PiledPage>(
	{ packets, isDuplex, blank, other }: Piling<P>,
	random: Random
): Pick<TrueStack<P>, 'pages' | 'feeding'> & { readonly about: readonly string[] } {
	const about: string[] = [];
	// Before they are piled: pages left out, twice, and blank backs.
	const piled = packets.map((pages) => {
		const own = [...pages];
		if (own.length > 2 && random.chance(0.08)) {
			own.splice(random.whole(1, own.length - 1), 1);
			about.push('a page missing');
		}
		if (!isDuplex && own.length > 1 && random.chance(0.06)) {
			const at = random.whole(0, own.length - 1);
			own.splice(at + 1, 0, { ...own[at]!, role: 'twice' });
			about.push('a page twice');
		}
		if (isDuplex && own.length % 2 === 1) own.push(blank(own[0]!.owner));
		else if (!isDuplex && random.chance(0.05)) own.push(blank(own[0]!.owner));
		return own;
	});
	// A leaf that lies in another's packet.
	const leaf = isDuplex ? 2 : 1;
	const strays = random.pick([0, 1, 1, 2, 3]);
	for (let n = 0; n < strays; n++) {
		const from = random.whole(0, piled.length - 1);
		const to = random.whole(0, piled.length - 1);
		const source = piled[from]!;
		const target = piled[to]!;
		if (Math.abs(from - to) < 2 || source.length < 2 * leaf + 1 || target.length < 2 * leaf) continue;
		const at = leaf * random.whole(1, Math.floor(source.length / leaf) - 1);
		const gone = source.splice(at, leaf);
		const into = leaf * random.whole(1, Math.floor(target.length / leaf) - 1);
		if (into >= target.length) {
			source.splice(at, 0, ...gone);
			continue;
		}
		target.splice(into, 0, ...gone.map((p): P => (p.role === 'page' ? { ...p, role: 'stray' } : p)));
		about.push('a stray');
	}
	if (random.chance(0.15)) {
		const page = other();
		const at = random.whole(0, piled.length - 1);
		piled[at]!.push(page, ...(isDuplex ? [blank(null)] : []));
		about.push('a page of another assignment');
	}
	let pages = piled.flat();
	let feeding: Feeding = 'as fed';
	if (isDuplex && random.chance(0.4)) {
		const fronts = pages.filter((_, i) => i % 2 === 0);
		const backs = pages.filter((_, i) => i % 2 === 1);
		const isTurnedOver = random.chance(0.5);
		pages = [...fronts, ...(isTurnedOver ? backs.reverse() : backs)];
		feeding = isTurnedOver ? 'fronts, then backs from the last' : 'fronts, then backs';
		about.push(feeding);
	}
	if (random.chance(0.3)) {
		const from = random.whole(0, pages.length - 2);
		const to = random.chance(0.5) ? pages.length : random.whole(from + 1, pages.length);
		pages = pages.map((p, i) => (i >= from && i < to ? { ...p, lies: 180 } : p));
		about.push('some upside down');
	}
	return { pages, feeding, about };
}
