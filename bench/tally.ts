/** So many right of so many. */
export class Tally {
	right = 0;
	all = 0;
	count(isRight: boolean): void {
		this.all++;
		if (isRight) this.right++;
	}
	toString(): string {
		const share = this.all > 0 ? ` (${((100 * this.right) / this.all).toFixed(1)} %)` : '';
		return `${this.right} of ${this.all}${share}`;
	}
}
