import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { answerables } from '../src/lib/core/assignment/question';
import { knownInHeaders, namesInPacket, namesOnPage } from '../src/lib/core/bundle/namePlaces';
import { nameOnPage, otherThan } from '../src/lib/core/reading/personName';
import { expectedFileName } from '../src/lib/core/rules/expectedFileName';
import { NAMED, SURE } from '../src/lib/core/stack/heaps';
import { proposeCuts, type ProposedPacket, type StackProposal } from '../src/lib/core/stack/proposeCuts';
import type { ClassPerson } from '../src/lib/core/stack/stackPage';
import { preparePages, type Prepared } from './preparedPages';
import { readClass } from './readClass';
import { readRules } from './rules';
import { writeWhole } from './writeWhole';

/**
 * `cut --rules R.json --roster ROSTER.csv -o FOLDER FILE…`: a class's stack to packets. Returns 0 when all is sure,
 * 2 when something should be looked at, 1 on an error.
 */
export async function cutStack(args: string[]): Promise<number> {
	const { values, positionals } = parseArgs({
		args,
		allowPositionals: true,
		options: {
			rules: { type: 'string' },
			roster: { type: 'string' },
			output: { type: 'string', short: 'o' },
			'no-reading': { type: 'boolean' }
		}
	});
	const { rules: rulesPath, roster: rosterPath, output } = values;
	if (!rulesPath || !rosterPath || !output || positionals.length === 0) {
		throw new Error('Use: membrana cut --rules R.json --roster ROSTER.csv [--no-reading] -o FOLDER FILE…');
	}
	const started = performance.now();
	const rules = await readRules(rulesPath);
	const roster = await readClass(rosterPath);
	await mkdir(output, { recursive: true });
	// What makes files is loaded while the pages are prepared.
	const making = import('./packetFile');
	const pages = await preparePages(positionals, rules, { reading: !values['no-reading'], inStack: true });
	const prepared = performance.now();
	const { recordOf, writePacket } = await making;
	const byId = new Map(pages.map((p) => [p.page.id, p]));
	const proposal = proposeCuts({
		pages: pages.map((p) => ({ page: p.page, record: recordOf(p) })),
		roster,
		questions: rules.questions,
		...(rules.pages?.max ? { most: rules.pages.max } : {})
	});
	const cut = performance.now();

	const placeOf = (id: string) => {
		const { source, sourcePage, half } = byId.get(id)!.page;
		return { source, sourcePage, ...(half === undefined ? {} : { half }) };
	};
	const known = knownInHeaders(rules);
	const packets = [];
	const repeated: { page: string; reason: string }[] = [];
	const names = new Set<string>();
	let blocks = false;
	for (const [i, packet] of proposal.packets.entries()) {
		const person = roster.find((p) => p.id === packet.person?.id);
		const isNamed = person && packet.person!.confidence >= NAMED;
		const owner = isNamed ? person : { given: '', family: '' };
		const wanted = isNamed ? expectedFileName(rules, person) : `unnamed-${String(i + 1).padStart(2, '0')}`;
		const name = names.has(wanted) ? `${wanted}-${i + 1}` : wanted;
		names.add(name);
		const full = isNamed ? `${person.given} ${person.family}`.trim() : '';
		const found = packet.pages.map((id) => withName(byId.get(id)!, owner, roster));
		const written = await writePacket(
			found,
			rules,
			{ ...owner, full },
			join(output, `${name}.pdf`),
			(strip) =>
				namesInPacket(strip.map((p) => namesOnPage(p.reading, roster, isNamed ? person : null, known)))
		);
		if (!written) continue;
		blocks ||= written.findings.some((f) => f.level === 'blocks');
		repeated.push(...written.order.setAside);
		packets.push({
			person: packet.person && {
				sourcedId: packet.person.id,
				confidence: packet.person.confidence,
				because: packet.person.because
			},
			file: `${name}.pdf`,
			pages: written.order.strip.map(({ page }) => placeOf(page)),
			confidence: packet.confidence
		});
	}
	const report = {
		assignment: {
			title: rules.title,
			...(rules.course ? { course: rules.course } : {}),
			questions: [...new Set(answerables(rules.questions).map((a) => a.question))]
		},
		people: roster.map((p) => ({ sourcedId: p.id, givenName: p.given, familyName: p.family })),
		packets,
		cuts: proposal.cuts.map(({ page, confidence, because }) => ({ ...placeOf(page), confidence, because })),
		setAside: [...proposal.setAside, ...repeated].map(({ page, reason }) => ({ ...placeOf(page), reason })),
		missing: proposal.missing,
		moved: proposal.moved.map(placeOf),
		fed: proposal.feeding,
		milliseconds: {
			prepare: Math.round(prepared - started),
			cut: Math.round(cut - prepared),
			write: Math.round(performance.now() - cut),
			all: Math.round(performance.now() - started)
		}
	};
	await writeWhole(
		join(output, 'cuts.json'),
		new TextEncoder().encode(`${JSON.stringify(report, null, '\t')}\n`)
	);
	return blocks || !isSure(proposal) ? 2 : 0;
}

function isSure({ packets, cuts, setAside, missing, moved }: StackProposal): boolean {
	const known = (p: ProposedPacket) => p.confidence >= SURE && (p.person?.confidence ?? 0) >= SURE;
	return (
		packets.every(known) &&
		cuts.every((c) => c.confidence >= SURE) &&
		setAside.every((s) => s.confidence >= SURE) &&
		missing.length === 0 &&
		moved.length === 0
	);
}

/** A page of somebody's packet, with what its header says of whose it is. */
function withName(page: Prepared, owner: Omit<ClassPerson, 'id'>, roster: readonly ClassPerson[]): Prepared {
	const name = page.reading && nameOnPage(page.reading, roster);
	return { ...page, name, otherPerson: owner.family ? otherThan(owner, name) : null };
}
