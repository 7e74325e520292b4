import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nextPath } from './nextPath';
import { SignInPace } from './signInPace';

const SITE = 'https://membrana.example';

describe('nextPath', () => {
	it('keeps paths of this site, and nothing else', () => {
		expect(nextPath('/packets/1/gather?a=b#c', SITE)).toBe('/packets/1/gather?a=b#c');
		for (const asked of [
			null,
			'',
			'x',
			'//a.b',
			'/\\a.b',
			'\\\\a.b',
			'/\t/a.b',
			'/\n/a.b',
			'https://a.b/',
			'javascript:1'
		]) {
			expect(nextPath(asked, SITE)).toBe('/');
		}
	});

	it('leads a browser to this site whatever it is given', () => {
		const piece = fc.constantFrom(
			'/',
			'\\',
			'\t',
			'\n',
			'\r',
			'@',
			':',
			'a.b',
			'..',
			'%09',
			'?',
			'#',
			'http'
		);
		fc.assert(
			fc.property(fc.array(piece, { maxLength: 8 }), (pieces) => {
				const path = nextPath(pieces.join(''), SITE);
				expect(new URL(path, SITE).origin).toBe(SITE);
				expect(path).toMatch(/^\/(?![/\\])[^\r\n\t]*$|^\/$/);
			})
		);
	});
});

describe('SignInPace', () => {
	const minute = 60_000;

	it('lets some wrong tries pass, then asks for longer and longer waits, up to a minute', () => {
		const pace = new SignInPace();
		const waits: number[] = [];
		for (let i = 0; i < 14; i++) {
			waits.push(pace.wait('Ilka', '1.1.1.1', 0));
			pace.failed('ilka ', '1.1.1.1', 0);
		}
		expect(waits.slice(0, 5)).toEqual([0, 0, 0, 0, 0]);
		expect(waits.slice(5)).toEqual([1, 2, 4, 8, 16, 32, 60, 60, 60]);
		// Blanks and capitals are the same name; another address, and another name, are not held up.
		expect(pace.wait('  ILKA', '1.1.1.1', 0)).toBe(60);
		expect(pace.wait('ilka', '2.2.2.2', 0)).toBe(0);
		expect(pace.wait('tobias', '1.1.1.1', 0)).toBe(0);
		// It fades, and a right password ends it.
		expect(pace.wait('ilka', '1.1.1.1', 10 * minute)).toBe(0);
		pace.succeeded('ilka', '1.1.1.1');
		expect(pace.wait('ilka', '1.1.1.1', 0)).toBe(0);
	});

	it('slows an address that tries hundreds of names', () => {
		const pace = new SignInPace();
		let tried = 0;
		for (let second = 0; second < 300; second++) {
			const now = second * 1000;
			for (let i = 0; i < 10; i++) {
				const name = `name ${tried}`;
				if (pace.wait(name, '3.3.3.3', now) > 0) break;
				pace.failed(name, '3.3.3.3', now);
				tried++;
			}
		}
		expect(tried).toBeLessThan(80);
	});

	it('holds answers back for a name that is guessed at from everywhere, and still lets its owner in', () => {
		const pace = new SignInPace();
		for (let i = 0; i < 200; i++) pace.failed('ilka', `10.0.0.${i}`, 0);
		expect(pace.hold('ilka', 0)).toBeGreaterThan(0);
		expect(pace.hold('ilka', 0)).toBeLessThanOrEqual(5);
		expect(pace.hold('tobias', 0)).toBe(0);
		expect(pace.wait('ilka', '4.4.4.4', 0)).toBe(0);
	});
});
