import sharp from 'sharp';
import { effectiveSettings } from '../../src/lib/core/page/effective';
import { analysePicture, preparePage } from '../../src/lib/core/page/preparePage';
import type { Place } from '../../src/lib/core/reading/places';
import type { Picture, Plane } from '../../src/lib/core/raster/picture';
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
import { STRANGE, strangePage, type StrangeKind } from '../strangePages';
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

/** A page to fit on: what was found on it, and the truth about its labels and its number. */
export type PageToFit = Pick<LookedPage, 'size' | 'questions' | 'places'> & {
	readonly shot: Pick<LookedPage['shot'], 'labels' | 'role'> & {
		readonly spec: Pick<LookedPage['shot']['spec'], 'pageNumber'>;
	};
};

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
		pages.push({ shot: withoutPicture(shot), ...(await preparedPicture(picture)) });
	}
	return pages;
}

async function preparedPicture(picture: Picture): Promise<Omit<PreparedPage, 'shot'>> {
	const page = {
		id: 'p',
		source: 's',
		sourcePage: 0,
		corners: null,
		turn: 0 as const,
		tone: null
	};
	const settings = effectiveSettings(page, analysePicture(picture), TONE, 'A4');
	const { finished, facts } = preparePage(picture, settings);
	const { width, height, data: grey } = greyOf(finished);
	const png = await sharp(grey, { raw: { width, height, channels: 1 } })
		.toColourspace('b-w')
		.png({ compressionLevel: 3 })
		.toBuffer();
	return { png, dotsPerInch: facts.dotsPerInch };
}

async function looked(packet: SamplePacket, seed: number): Promise<LookedPage[]> {
	const pages: LookedPage[] = [];
	for (const { shot, png, dotsPerInch } of await preparedPacket(packet, seed)) {
		const { size, places } = await lookedPicture(png, dotsPerInch);
		pages.push({
			size,
			questions: packet.sheet.questions,
			roster: packet.roster,
			shot,
			places
		});
	}
	return pages;
}

async function lookedPicture(
	png: Uint8Array,
	dotsPerInch: number
): Promise<Pick<LookedPage, 'size' | 'places'>> {
	const plane = await planeOf(png);
	const looked = await lookAtPage(plane, dotsPerInch);
	const inFull = inColour(looked.clean);
	const places = looked.places.map(({ box, kind, after, crops }, i) => {
		const shown = shownOf(looked, i);
		const { data } = flatten(inFull, shown, columnsOf(shown), LINE_HEIGHT);
		const grey = Uint8Array.from({ length: data.length / 3 }, (_, p) => data[3 * p]!);
		return {
			box,
			kind,
			after,
			crops: placeCrops(plane, looked, crops),
			shown: { width: columnsOf(shown), height: LINE_HEIGHT, data: grey }
		};
	});
	return { size: [plane.width, plane.height], places };
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

/** Questions that are asked for on pages that belong to no packet. */
const ANY_QUESTIONS: readonly Question[] = ['1', '2', '3', '4', '5'].map((label) => ({
	label,
	parts: [{ label: 'a' }, { label: 'b' }]
}));

/** A page that is no answer, or one in a script that the reader does not know. */
export async function lookedStrangePage(
	kind: StrangeKind,
	part: Part,
	nth: number,
	firstSeed: number
): Promise<PageToFit> {
	return kept('membrana-looked-pages', [kind, part, nth, firstSeed, PIPELINE, READER], async () => {
		const { picture, labels, pageNumber } = strangePage(kind, part, nth, firstSeed);
		const { png, dotsPerInch } = await preparedPicture(picture);
		const found = await lookedPicture(png, dotsPerInch);
		const shot = { labels, role: 'page' as const, spec: { pageNumber } };
		return { ...found, questions: ANY_QUESTIONS, shot };
	});
}

/** For each usual packet that something is fitted on, so many strange pages of each kind. */
const STRANGE_SHARE = 0.5;

/** Packets and strange pages, each of those by itself. */
export async function* pagesToFit(
	part: Part,
	packets: number,
	firstSeed: number
): AsyncGenerator<{ readonly nth: number; readonly pages: readonly PageToFit[] }> {
	yield* packetsToFit(part, packets, firstSeed);
	for (let nth = 0; nth < STRANGE_SHARE * packets; nth++) {
		for (const kind of STRANGE) {
			yield { nth, pages: [await lookedStrangePage(kind, part, nth, firstSeed)] };
		}
	}
}
