import sharp from 'sharp';
import { effectiveSettings } from '../../src/lib/core/page/effective';
import { analysePicture, preparePage } from '../../src/lib/core/page/preparePage';
import type { Place } from '../../src/lib/core/reading/places';
import type { Plane } from '../../src/lib/core/raster/picture';
import type { Question } from '../../src/lib/core/assignment/question';
import { greyOf } from '../../src/lib/core/tone/finish';
import { DEFAULT_TONE } from '../../src/lib/core/tone/tone';
import { flatten } from '../../src/lib/core/sheet/flatten';
import { inColour } from '../../src/lib/server/reader/inkOnPage';
import { columnsOf, LINE_HEIGHT } from '../../src/lib/server/reader/lineInput';
import { lookAtPage, placeCrops, shownOf } from '../../src/lib/server/reader/lookAtPage';
import { PIPELINE, READER } from '../../src/lib/server/store/derivedKeys';
import { kept } from '../kept';
import { samplePacket, type SamplePacket } from '../packets';
import { packetShots, type PacketShot } from '../packetShots';
import type { Part } from '../../training/hands';
import type { Writers } from '../writers';

/** A page on which places were found, with what any recogniser needs to read them, and the truth. */
export interface LookedPage {
	readonly size: readonly [number, number];
	readonly questions: readonly Question[];
	readonly roster: readonly string[];
	readonly shot: Omit<PacketShot, 'jpeg'>;
	readonly places: readonly (Omit<Place, 'crops'> & {
		readonly crops: readonly Plane[];
		/** What the general reader is shown of it. */
		readonly shown: Plane;
	})[];
}

const TONE = { ...DEFAULT_TONE, name: 'greyscale' } as const;

/** The pages of a packet, photographed, prepared and looked at; kept, as they take seconds each. */
export async function lookedPages(seed: number, writers: Writers): Promise<LookedPage[]> {
	return lookedPacket(samplePacket(seed, writers), seed);
}

/** Those of a packet that was made otherwise. */
export async function lookedPacket(packet: SamplePacket, seed: number): Promise<LookedPage[]> {
	return kept('membrana-looked-pages', [packet, PIPELINE, READER], () => looked(packet, seed));
}

/** A page as the reader is given it, with the truth; the picture as a PNG. */
interface PreparedPage {
	readonly shot: Omit<PacketShot, 'jpeg'>;
	readonly png: Uint8Array;
	readonly dotsPerInch: number;
}

/** The pages of a packet, photographed and prepared; kept, so that another reader can be shown the same ones soon. */
export async function preparedPacket(packet: SamplePacket, seed: number): Promise<PreparedPage[]> {
	return kept('membrana-prepared-pages', [packet, PIPELINE], () => prepared(packet, seed));
}

async function prepared(packet: SamplePacket, seed: number): Promise<PreparedPage[]> {
	const pages: PreparedPage[] = [];
	for (const shot of await packetShots(packet, seed, false)) {
		const { data, info } = await sharp(shot.jpeg).removeAlpha().raw().toBuffer({ resolveWithObject: true });
		const picture = { width: info.width, height: info.height, channels: 3, data } as const;
		const seen = analysePicture(picture);
		const page = {
			id: 'p',
			source: 's',
			sourcePage: 0,
			corners: null,
			turn: 0 as const,
			tone: null
		};
		const { finished, facts } = preparePage(picture, effectiveSettings(page, seen, TONE, 'A4'));
		const { width, height, data: grey } = greyOf(finished);
		const png = await sharp(grey, { raw: { width, height, channels: 1 } })
			.toColourspace('b-w')
			.png({ compressionLevel: 3 })
			.toBuffer();
		pages.push({ shot: withoutPicture(shot), png, dotsPerInch: facts.dotsPerInch });
	}
	return pages;
}

async function looked(packet: SamplePacket, seed: number): Promise<LookedPage[]> {
	const pages: LookedPage[] = [];
	for (const { shot, png, dotsPerInch } of await preparedPacket(packet, seed)) {
		const plane = await planeOf(png);
		const looked = await lookAtPage(plane, dotsPerInch);
		const inFull = inColour(looked.clean);
		const places: LookedPage['places'][number][] = [];
		for (const [i, { box, kind, after, crops }] of looked.places.entries()) {
			const shown = shownOf(looked, i);
			const { data } = flatten(inFull, shown, columnsOf(shown), LINE_HEIGHT);
			const grey = Uint8Array.from({ length: data.length / 3 }, (_, p) => data[3 * p]!);
			places.push({
				box,
				kind,
				after,
				crops: placeCrops(plane, looked, crops),
				shown: { width: columnsOf(shown), height: LINE_HEIGHT, data: grey }
			});
		}
		pages.push({
			size: [plane.width, plane.height],
			questions: packet.sheet.questions,
			roster: packet.roster,
			shot,
			places
		});
	}
	return pages;
}

async function planeOf(png: Uint8Array): Promise<Plane> {
	const { data, info } = await sharp(png).toColourspace('b-w').raw().toBuffer({ resolveWithObject: true });
	return { width: info.width, height: info.height, data: new Uint8Array(data) };
}

function withoutPicture({ jpeg: _, ...known }: PacketShot): LookedPage['shot'] {
	return known;
}

/** For each usual packet that something is fitted on, so many are of the wider kind. */
const WIDER_SHARE = 44 / 30;

/** The packets that weights are fitted on: usual ones and wider ones, each in turn with digits of people and of fonts. */
export async function* packetsToFit(
	part: Part,
	packets: number,
	firstSeed: number
): AsyncGenerator<{ readonly nth: number; readonly pages: LookedPage[] }> {
	const wider = Math.round(WIDER_SHARE * packets);
	for (let nth = 0; nth < packets + wider; nth++) {
		const digits = nth % 2 === 0 ? 'people' : 'fonts';
		const usual = { hands: part, digits } as const;
		yield nth < packets
			? { nth, pages: await lookedPages(firstSeed + nth, usual) }
			: {
					nth,
					pages: await lookedPages(firstSeed + WIDER_FROM + nth - packets, { ...usual, habits: 'wider' })
				};
	}
}
/** Seeds of the wider packets begin so much later. */
export const WIDER_FROM = 10_000;
