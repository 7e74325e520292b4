import { writeFileSync } from 'node:fs';
import { test } from 'vitest';
import { weighedByOthers } from '../src/lib/core/reading/alikeLabels';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { namedLabels } from '../src/lib/core/reading/namedLabels';
import { pageReading } from '../src/lib/core/reading/pageReading';
import { readNumber } from '../src/lib/core/reading/pageNumber';
import { readPlaces } from '../src/lib/server/reader/lookAtPage';
import { placesReadTwice } from './fit/labels';
import { lookedPages } from './fit/lookedPages';
test('x', async () => {
	const out: string[] = [];
	for (let i = Number(process.env.FROM ?? 0); i < Number(process.env.TO ?? 14); i++) {
		const digits = i % 2 === 0 ? 'people' : 'fonts';
		for (const page of await lookedPages(745000 + i, { hands: 'tuning', digits })) {
			const forms = labelForms(page.questions);
			const places = await placesReadTwice(page, await readPlaces(page.places), forms);
			const reading = pageReading([], places, page.size, forms);
			const { shot } = page;
			const head = `${i} ${shot.spec.hand.family} ${digits} role=${shot.role}`;
			const found = namedLabels(weighedByOthers([reading.labels])[0]!);
			if (shot.role !== 'foreign') {
				const open = new Set(shot.labels);
				for (const f of found) {
					const t = [...open].find((l) => Math.abs(l.y - f.y) <= 0.03);
					if (t) open.delete(t);
					const tq = t ? t.question : null;
					if (!t || !(tq === f.question || tq?.replace(/^\d+/, '') === f.question))
						out.push(
							`${head}: WRONG said ${f.question} "${f.text}" ${f.confidence.toFixed(2)} y${f.y.toFixed(2)}; truth ${t ? `"${t.text}" ${t.question}` : 'none'}  ${JSON.stringify(reading.labels.find((c) => c.text === f.text && Math.abs(c.y - f.y) < 0.01)).slice(0, 420)} [${shot.labels.map((l) => l.text + '@' + l.y.toFixed(2)).join(', ')}]`
						);
				}
				for (const l of open)
					out.push(
						`${head}: LOST "${l.text}" ${l.question} y${l.y.toFixed(2)} cands: ${reading.labels
							.filter((c: any) => Math.abs(c.y - l.y) < 0.03)
							.map((c: any) => JSON.stringify(c).slice(0, 220))
							.join(' | ')}`
					);
			}
			const number = readNumber(reading.numbers);
			const written = shot.spec.pageNumber?.match(/\d+/)?.[0];
			if ((written ?? null) !== (number ? String(number.number) : null))
				out.push(
					`${head}: NUMBER wrote ${shot.spec.pageNumber} read ${number ? number.number + '/' + number.of + ' ' + number.probability.toFixed(2) : null} :: ${JSON.stringify(reading.numbers).slice(0, 300)}`
				);
		}
	}
	writeFileSync('/tmp/fails.txt', out.join('\n'));
}, 3000000);
