import { effectiveSettings } from '../src/lib/core/page/effective';
import { preparePage } from '../src/lib/core/page/preparePage';
import { apply } from '../src/lib/core/packet/change';
import type { Packet } from '../src/lib/core/packet/packet';
import type { PageRecord } from '../src/lib/core/page/pageRecord';
import { fileSize, isTooLarge } from '../src/lib/core/rules/rule/fileSize';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import { smallerTones, type PageWeight } from '../src/lib/core/size/pageWeights';
import type { FinishedPage } from '../src/lib/core/tone/finish';
import type { Tone } from '../src/lib/core/tone/tone';
import { usualTone } from '../src/lib/core/tone/usualTone';
import { decodeSource } from '../src/lib/server/codec/source';
import { encodeCoarser, weighPage } from '../src/lib/server/codec/weigh';
import { pageImages } from '../src/lib/server/work/wholePicture';
import type { Prepared } from './preparedPages';

/**
 * Makes the pages of a packet smaller, as the rule on the file's size proposes, where the file is larger than is
 * allowed. Whatever cannot be made to fit stays as it is, and the rule says so.
 */
export async function makeSmaller(
	pages: readonly Prepared[],
	packet: Packet,
	rules: RuleSheet,
	evidenceOf: (pages: readonly Prepared[], packet: Packet) => Record<string, PageRecord>
): Promise<{ pages: readonly Prepared[]; packet: Packet }> {
	const nobody = { given: '', family: '' };
	if (!isTooLarge({ sheet: rules, packet, evidence: evidenceOf(pages, packet) })) return { pages, packet };
	const weighed = await Promise.all(
		pages.map(async (p) => (packet.strip.includes(p.page.id) ? { ...p, weights: await weigh(p, rules) } : p))
	);
	const finding = fileSize({ sheet: rules, packet, person: nobody, evidence: evidenceOf(weighed, packet) });
	const change = finding.fix?.change;
	if (!change) return { pages: weighed, packet };
	const smaller = apply(packet, change).packet;
	const made = await Promise.all(weighed.map((p) => remake(p, smaller, rules)));
	return { pages: made, packet: smaller };
}

async function weigh(page: Prepared, rules: RuleSheet): Promise<PageWeight[]> {
	const tone = page.page.tone ?? usualTone(rules);
	const asPrepared = { ...page.facts, view: page.view, tone: tone.name };
	return weighPage(asPrepared, page.image.bytes.length, smallerTones(tone, rules.tone), (other) =>
		finishIn(page, rules, other)
	);
}

/** The page in the form that was chosen for it. */
async function remake(page: Prepared, packet: Packet, rules: RuleSheet): Promise<Prepared> {
	const now = packet.pages[page.page.id]!;
	const { encoding, tone } = now;
	if (tone === page.page.tone && !encoding) return page;
	const made = tone === page.page.tone ? page : await pageImages(await finishIn(page, rules, tone!));
	if (!encoding) return { ...page, ...made, page: now, weights: null };
	const name = (tone ?? usualTone(rules)).name;
	const image = await encodeCoarser({ ...page.facts, view: made.view, tone: name }, encoding);
	const weights = [{ tone: null, encoding, bytes: image.bytes.length, loss: 0 }];
	return { ...page, image, view: made.view, page: now, weights };
}

async function finishIn(
	{ page, picture, file }: Prepared,
	rules: RuleSheet,
	tone: Tone
): Promise<FinishedPage> {
	const pixels = await decodeSource(file.path, file.type, page.sourcePage);
	const settings = effectiveSettings({ ...page, tone }, picture, tone, rules.pages?.size);
	return preparePage(pixels, settings).finished;
}
