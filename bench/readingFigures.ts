import type { NumberOption } from '../src/lib/core/reading/pageNumber';
import type { NameReading } from '../src/lib/core/reading/personName';
import { Tally } from './tally';

/** What is said of a page's labels: how surely, and whether it is right; and how many of those that are there are not said. */
export interface ComparedLabels {
	readonly said: readonly { readonly confidence: number; readonly right: boolean }[];
	readonly lost: number;
}

/** From this confidence on a wrong reading counts as one that was sure. */
const SURE = 0.5;

/** How well pages were read, each by itself. */
export class Figures {
	hit = 0;
	wrong = 0;
	lost = 0;
	readonly numbers = new Tally();
	readonly noNumber = new Tally();
	readonly names = new Tally();
	/** Readings of every kind that were sure, and how many of those were wrong. */
	readonly sure = new Tally();
	/** By tenths of confidence: how many were right. */
	readonly tenths = Array.from({ length: 10 }, () => new Tally());

	get f1(): number {
		return (2 * this.hit) / Math.max(1, 2 * this.hit + this.wrong + this.lost);
	}
	claimed(confidence: number, right: boolean): void {
		if (confidence >= SURE) this.sure.count(right);
		this.tenths[Math.min(9, Math.floor(10 * confidence))]!.count(right);
	}

	countLabels({ said, lost }: ComparedLabels): void {
		for (const { confidence, right } of said) {
			this.claimed(confidence, right);
			if (right) this.hit++;
			else this.wrong++;
		}
		this.lost += lost;
	}

	/** @param written as it stands on the page; undefined where none does */
	countNumber(read: NumberOption | null, written: string | undefined): void {
		const number = written?.match(/\d+/)?.[0];
		if (number) this.numbers.count(read?.number === Number(number));
		else this.noNumber.count(read === null);
		if (read) this.claimed(read.probability, read.number === Number(number));
	}

	/** @param written the name on the page; null where there is none */
	countName(read: NameReading | null, written: string | null): void {
		const whose = read?.person ? `${read.person.given} ${read.person.family}` : null;
		if (written) this.names.count(whose === written);
		if (whose && read) this.claimed(read.confidence, whose === written);
	}

	toString(): string {
		return (
			`labels F1 ${this.f1.toFixed(3)} (${this.hit} right, ${this.wrong} wrong, ${this.lost} lost), numbers ${this.numbers}, ` +
			`none where none is ${this.noNumber}, names ${this.names}, sure ones right ${this.sure}`
		);
	}
}
