import { createHash, randomUUID } from 'node:crypto';
import { access, mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { effectiveSettings } from '../../core/page/effective';
import { preparePage, type PageFacts, type PictureFacts } from '../../core/page/preparePage';
import { flattenLevel } from '../../core/page/levelLines';
import { pageSize, RESOLUTION } from '../../core/page/pageSize';
import { takeProposed as proposedChange } from '../../core/check/takeProposed';
import { proposeSeams } from '../../core/mapping/proposeSeams';
import type { Change } from '../../core/packet/change';
import { withLabelsSettled } from '../../core/mapping/settleLabels';
import type { Packet, Page } from '../../core/packet/packet';
import { namesLeftOn, type NamePlace } from '../../core/bundle/namePlaces';
import type { Plane } from '../../core/raster/picture';
import type { PageRecord } from '../../core/page/pageRecord';
import { labelForms } from '../../core/reading/labelForms';
import type { Drawn } from '../../core/marks/onPage';
import type { PageReading, TextLine } from '../../core/reading/pageReading';
import { nameOnPage, type NameReading, type RosterPerson } from '../../core/reading/personName';
import { summarise, type PacketSummary } from '../../core/board/summarise';
import { checkPages } from '../../core/check/check';
import type { Finding } from '../../core/rules/finding';
import type { Question } from '../../core/assignment/question';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import type { PaperName } from '../../core/sheet/paperSize';
import type { Quadrilateral } from '../../core/sheet/geometry';
import { turnCorners, type TurnGuess } from '../../core/sheet/turn';
import { smallerTones, type Encoding, type PageWeight } from '../../core/size/pageWeights';
import { DEFAULT_TONE, heldBy, type Tone, type ToneName } from '../../core/tone/tone';
import { proposeCuts, type StackInput, type StackProposal } from '../../core/stack/proposeCuts';
import { unzipSync } from 'fflate';
import { factsOf } from '../codec/coverCode';
import { encodePage, encodePng, encodePreview, toPreview, type PageImage } from '../codec/encode';
import type { ReceiptText } from '../codec/receiptPdf';
import type { CoverSheets } from '../codec/coversPdf';
import type { SlipSheet } from '../codec/slipsPdf';
import type { BagInfo } from '../../core/bundle/bag';
import { writeBag, type BagContent } from '../codec/bagOut';
import type { Bundle, BundledAnswer } from '../codec/bundlePdf';
import type { CutOutInput, PageToCut } from '../codec/cutOut';
import type { PdfBookmark } from '../codec/pdfOut';
import type { SourceType } from '../codec/sniff';
import { decodePlane } from '../codec/picture';
import { decodeSource, openSource, type SourceContents } from '../codec/source';
import { SourceError } from '../codec/sourceError';
import { encodeCoarser, weighPage } from '../codec/weigh';
import { unpackZip, type Unpacked } from '../codec/zipIn';
import { zipPages } from '../codec/zipOut';
import { loadModels } from '../reader/models';
import { readTurn } from '../reader/readTurn';
import { beginReading, finishReading, wholeReading, type BegunReading } from '../reader/wholeReading';
import type { FormField } from '../../core/marks/formFields';
import type { Columns } from '../../core/roster/columns';
import { readRoster, type ReadRoster } from '../roster/readRoster';
import { TableError } from '../roster/readTable';
import type { PreparedPaths } from '../vault/derived';
import { pagesOfPicture, type WholePage, type WholePictureInput } from './wholePicture';

// The heavy steps. They run in the server's processes of work and straight away on the command line;
// all arguments and results are plain data, so that they pass between processes. What makes PDFs is loaded when it is first
// needed: loading it takes longer than preparing a page, and a process that stands ready may never make one.

/** What a step says of a file that cannot be used; thrown errors lose their class between processes. */
export type Outcome<T> = ({ readonly ok: true } & T) | { readonly ok: false; readonly problem: string };

async function outcome<T extends object>(work: () => Promise<T>): Promise<Outcome<T>> {
	try {
		return { ok: true, ...(await work()) };
	} catch (error) {
		if (error instanceof SourceError || error instanceof TableError)
			return { ok: false, problem: error.message };
		throw error;
	}
}

/** Takes a source in: what it is and how many pictures it holds. */
export function takeIn({ path }: { path: string }): Promise<Outcome<SourceContents>> {
	return outcome(() => openSource(path));
}

/** The text that a page (from 0) of a PDF holds itself; empty for a scan. */
export function pdfText({
	path,
	index
}: {
	path: string;
	index: number;
}): Promise<Outcome<{ text: string }>> {
	return outcome(async () => ({ text: await (await import('../codec/pdfIn')).pdfPageText(path, index) }));
}

/** The fields to fill in on a page (from 0) of a PDF. */
export function formFields({
	path,
	index
}: {
	path: string;
	index: number;
}): Promise<Outcome<{ fields: FormField[] }>> {
	return outcome(async () => ({
		fields: await (await import('../codec/pdfFields')).pdfFormFields(path, index)
	}));
}

/** Reads a roster out of a file. */
export function readRosterFile({
	path,
	columns
}: {
	path: string;
	columns: Columns | null;
}): Promise<Outcome<ReadRoster>> {
	return outcome(() => readRoster(path, columns));
}

/** Unpacks a ZIP into a folder. */
export function unpack({
	path,
	folder
}: {
	path: string;
	folder: string;
}): Promise<Outcome<{ files: Unpacked[] }>> {
	return outcome(async () => ({ files: await unpackZip(path, folder) }));
}

export interface PrepareInput {
	readonly path: string;
	readonly type: SourceType;
	readonly page: Page;
	/** Found before; null when the picture has not been looked at. */
	readonly facts: PictureFacts | null;
	readonly usualTone: Tone;
	readonly expectedPaper?: PaperName;
	/** It lies in a class's stack. */
	readonly inStack: boolean;
	readonly preview: string;
	readonly paths: PreparedPaths;
}

/** Longer side of pictures for the screen, in pixels. */
const PREVIEW = 1600;
const THUMB = 360;

/** Prepares one page and writes its pictures: for the screen, for the strip, for the file. */
export function prepare(
	input: PrepareInput
): Promise<Outcome<{ picture: PictureFacts; facts: PageFacts; bytes: number }>> {
	return outcome(async () => {
		const picture = await decodeSource(input.path, input.type, input.page.sourcePage);
		const found = input.facts ?? (await factsOf(picture, input.inStack));
		if (!(await exists(input.preview))) {
			await writeWhole(input.preview, await encodePreview(picture, PREVIEW));
		}
		const settings = effectiveSettings(input.page, found, input.usualTone, input.expectedPaper);
		const { finished, facts } = preparePage(picture, settings);
		const image = await encodePage(finished);
		const pixels = finished.holds === 'colours' ? finished.picture : finished.plane;
		await writeWhole(input.paths.image, image.bytes);
		if (finished.holds === 'ink') {
			await writeWhole(input.paths.view, await encodePng(finished.plane));
		}
		await writeWhole(input.paths.thumb, await encodePreview(pixels, THUMB));
		return { picture: found, facts, bytes: image.bytes.length };
	});
}

/** From a picture to its pages, in one go: for the command line, which keeps nothing. */
export function wholePicture(input: WholePictureInput): Promise<Outcome<{ pages: WholePage[] }>> {
	return outcome(async () => ({ pages: await pagesOfPicture(input) }));
}

export interface FlatInput {
	readonly path: string;
	readonly type: SourceType;
	readonly page: Page;
	readonly facts: PictureFacts;
	readonly expectedPaper?: PaperName;
	readonly out: string;
}

/** The page flattened as it was photographed, at the resolution of the finished one, to compare with that. */
export function flat(input: FlatInput): Promise<Outcome<{ bytes: number }>> {
	return outcome(async () => {
		const picture = await decodeSource(input.path, input.type, input.page.sourcePage);
		const settings = effectiveSettings(input.page, input.facts, DEFAULT_TONE, input.expectedPaper);
		const size = pageSize(picture, settings.corners, settings.turn, RESOLUTION, settings.expectedPaper);
		const corners = turnCorners(settings.corners, settings.turn);
		const page = flattenLevel(picture, corners, size, settings.level);
		const jpeg = await encodePreview(page.flat, Math.max(size.width, size.height), 82);
		await writeWhole(input.out, jpeg);
		return { bytes: jpeg.length };
	});
}

export interface WeighInput {
	readonly path: string;
	readonly type: SourceType;
	readonly page: Page;
	readonly facts: PictureFacts;
	readonly prepared: PageFacts;
	readonly bytes: number;
	readonly tone: Tone;
	/** Allowed by the rule sheet; all where absent. */
	readonly tones?: readonly ToneName[];
	readonly expectedPaper?: PaperName;
	readonly view: string;
}

/** Weighs the ways to keep a prepared page in the file. */
export function weigh(input: WeighInput): Promise<Outcome<{ weights: PageWeight[] }>> {
	return outcome(async () => {
		const { page, facts, prepared, tone, expectedPaper } = input;
		const asPrepared = { ...prepared, view: input.view, tone: tone.name };
		const others = smallerTones(tone, input.tones);
		const source = others.length > 0 ? await decodeSource(input.path, input.type, page.sourcePage) : null;
		const weights = await weighPage(asPrepared, input.bytes, others, async (other) => {
			const settings = effectiveSettings({ ...page, tone: other }, facts, other, expectedPaper);
			return preparePage(source!, settings).finished;
		});
		return { weights };
	});
}

/** Loads what reading needs, before there is anything to read. */
export async function loadReader(): Promise<null> {
	await loadModels();
	return null;
}

export interface OrientationInput {
	readonly path: string;
	readonly type: SourceType;
	readonly sourcePage: number;
	readonly corners: Quadrilateral;
}

/** Reads a picture far enough to know which way is up. */
export function detectOrientation(input: OrientationInput): Promise<Outcome<{ turn: TurnGuess }>> {
	return outcome(async () => {
		const picture = await decodeSource(input.path, input.type, input.sourcePage);
		return { turn: await readTurn(picture, input.corners) };
	});
}

export interface ReadTextInput {
	/** The page as it is shown. */
	readonly view: string;
	readonly dotsPerInch: number;
	readonly questions: readonly Question[];
}

/** Looks at a prepared page: its labels, its number, what its header says. */
export async function lookAtText(input: ReadTextInput): Promise<BegunReading> {
	const page = await decodePlane(input.view);
	return beginReading(page, input.dotsPerInch, labelForms(input.questions));
}

/** Reads a prepared page whole: its text, and where it was not looked at before, its labels and number. */
export async function readText({
	begun,
	...input
}: ReadTextInput & { readonly begun?: BegunReading | null }): Promise<PageReading> {
	const page = await decodePlane(input.view);
	if (begun) return finishReading(page, input.dotsPerInch, begun);
	return wholeReading(page, input.dotsPerInch, labelForms(input.questions));
}

export interface MatchNamesInput {
	readonly pages: readonly {
		readonly readingKey: string;
		readonly reading: Pick<PageReading, 'lines' | 'header'>;
	}[];
	readonly roster: readonly RosterPerson[];
}

/** Matches the names at the top of pages to a roster. */
export function matchNames({
	pages,
	roster
}: MatchNamesInput): Promise<{ readingKey: string; name: NameReading | null }[]> {
	return Promise.resolve(
		pages.map(({ readingKey, reading }) => ({ readingKey, name: nameOnPage(reading, roster) }))
	);
}

/** How a stack would be cut. */
export function cutStack(input: StackInput): Promise<StackProposal> {
	return Promise.resolve(proposeCuts(input));
}

export interface CheckInput {
	readonly sheet: RuleSheet;
	readonly packet: Packet;
	readonly records: Readonly<Record<string, PageRecord>>;
	readonly person: RosterPerson;
	readonly reads: boolean;
}

/** What the rules say of a packet that do not look at the clock, and what a board shows of it. */
export function check({
	records,
	...input
}: CheckInput): Promise<{ findings: Finding[]; summary: PacketSummary }> {
	const evidence = withLabelsSettled(records, input.packet);
	const findings = checkPages({ ...input, evidence });
	const { sheet, packet } = input;
	const read = packet.strip.map((page) => ({ page, reading: evidence[page]?.reading ?? null }));
	const seams = proposeSeams(sheet.questions, read, packet.seams, packet.declined);
	return Promise.resolve({ findings, summary: summarise(sheet, packet, evidence, findings, seams) });
}

/** The change that takes what was surely read off a packet's pages. */
export function takeProposed(input: Omit<CheckInput, 'person' | 'reads'>): Promise<Change | null> {
	return Promise.resolve(proposedChange(input));
}

export interface MakeFileInput {
	readonly type: 'pdf' | 'zip';
	readonly out: string;
	readonly title: string;
	readonly author: string;
	readonly subject: string;
	/** Of what is written, as a BCP 47 tag: readers aloud go by it. */
	readonly language: string;
	/** ISO 8601. */
	readonly created: string;
	readonly pages: readonly {
		readonly image: string;
		/** A picture any program opens, for the ZIP. */
		readonly view: string;
		readonly width: number;
		readonly height: number;
		readonly dotsPerInch: number;
		readonly tone: Tone['name'];
		/** Less finely than prepared, where it was made smaller. */
		readonly encoding?: Encoding;
		/** As read; none where the page has not been. */
		readonly text: readonly TextLine[];
		/** Added by a person, in pixels of the page. */
		readonly added: readonly Drawn[];
	}[];
	readonly bookmarks: readonly PdfBookmark[];
	readonly notesApart: boolean;
	/** Name of the file without extension. */
	readonly name: string;
}

/** Makes the one file of a packet, and says how large it became and its SHA-256. */
export async function makeFile(input: MakeFileInput): Promise<{ sha256: string; bytes: number }> {
	const bytes = input.type === 'pdf' ? await pdfOf(input) : await zipOf(input);
	await writeWhole(input.out, bytes);
	return { sha256: createHash('sha256').update(bytes).digest('hex'), bytes: bytes.length };
}

export interface FilePageInput {
	readonly path: string;
	readonly type: 'pdf' | 'zip';
	/** From 0. */
	readonly index: number;
	readonly out: string;
}

/** Dots an inch at which a made file is shown. */
const PROOF = 110;

/** A page of a made file as a picture for the screen, drawn from the file itself. */
export function filePage(input: FilePageInput): Promise<Outcome<{ bytes: number }>> {
	return outcome(async () => {
		const jpeg = await (input.type === 'pdf' ? pageInPdf : pageInZip)(input.path, input.index);
		await writeWhole(input.out, jpeg);
		return { bytes: jpeg.length };
	});
}

async function pageInPdf(path: string, index: number): Promise<Buffer> {
	const { drawPdfPage } = await import('../codec/pdfIn');
	return encodePreview(await drawPdfPage(path, index, PROOF), 4000, 82);
}

async function pageInZip(path: string, index: number): Promise<Buffer> {
	const files = unzipSync(await readFile(path));
	const name = Object.keys(files).sort()[index];
	if (!name) throw new SourceError(`This file has no page ${index + 1}.`);
	return toPreview(Buffer.from(files[name]!), 1300);
}

/** A made PDF, locked with a password; the bytes are nowhere kept. */
export async function lock({ path, password }: { path: string; password: string }): Promise<Uint8Array> {
	const { lockPdf } = await import('../codec/lockPdf');
	return lockPdf(await readFile(path), password);
}

export interface NamesLeftInput {
	readonly page: PageToCut;
	readonly hide: readonly TextLine['box'][];
	readonly roster: readonly RosterPerson[];
	readonly writer: RosterPerson | null;
}

/** Reads the head of a page once more after names were taken off it: what is still found there. */
export function namesLeft(input: NamesLeftInput): Promise<Outcome<{ places: NamePlace[] }>> {
	return outcome(async () => {
		const { openPage } = await import('../codec/cutOut');
		const { grey, dotsPerInch } = await openPage(input.page, input.hide);
		const head: Plane = { ...grey, data: grey.data.slice() };
		head.data.fill(255, Math.round(HEAD * grey.height) * grey.width);
		const reading = await wholeReading(head, dotsPerInch, labelForms([]));
		return { places: namesLeftOn(reading, input.roster, input.writer) };
	});
}

/** The head of a page, as a part of its height. */
const HEAD = 0.16;

export interface MakeBundleInput extends Omit<Bundle, 'answers' | 'created'> {
	readonly answers: readonly {
		readonly heading: string;
		readonly cutOuts: readonly (CutOutInput & { readonly position: number })[];
	}[];
	/** ISO 8601. */
	readonly created: string;
	readonly out: string;
}

/** Makes one question's answers of a class into one PDF. */
export function makeBundle(
	input: MakeBundleInput
): Promise<Outcome<{ sha256: string; bytes: number; begins: number[] }>> {
	return outcome(async () => {
		const { cutOut, openPage } = await import('../codec/cutOut');
		const { makeBundlePdf } = await import('../codec/bundlePdf');
		const answers: BundledAnswer[] = [];
		for (const { heading, cutOuts } of input.answers) {
			const made = [];
			for (const { page, hide, position, ...part } of cutOuts) {
				made.push({ ...(await cutOut(await openPage(page, hide), part)), position });
			}
			answers.push({ heading, cutOuts: made });
		}
		const { pdf, begins } = await makeBundlePdf({ ...input, answers, created: new Date(input.created) });
		await writeWhole(input.out, pdf);
		return { sha256: createHash('sha256').update(pdf).digest('hex'), bytes: pdf.length, begins };
	});
}

export interface MakeBagInput {
	readonly out: string;
	readonly name: string;
	readonly contents: readonly BagContent[];
	readonly info: BagInfo;
}

/** Packs a bag. */
export function makeBag({ out, name, contents, info }: MakeBagInput) {
	return writeBag(out, name, contents, info);
}

/** A receipt as a PDF. */
export async function receipt(text: ReceiptText): Promise<Uint8Array> {
	return (await import('../codec/receiptPdf')).makeReceiptPdf(text);
}

/** Cover sheets for the packets of a stack, as a PDF. */
export async function covers(sheets: CoverSheets): Promise<Uint8Array> {
	return (await import('../codec/coversPdf')).makeCoversPdf(sheets);
}

/** Slips to come in with, as a PDF. */
export async function slips(sheet: SlipSheet): Promise<Uint8Array> {
	return (await import('../codec/slipsPdf')).makeSlipsPdf(sheet);
}

type FilePage = MakeFileInput['pages'][number];

async function pdfOf(input: MakeFileInput): Promise<Uint8Array> {
	const { makePdf } = await import('../codec/pdfOut');
	const pages = [];
	for (const page of input.pages) {
		const image = page.encoding ? await encodeCoarser(page, page.encoding) : await imageOf(page);
		// The resolution that gives the page its size, whatever the number of pixels.
		pages.push({
			image,
			dotsPerInch: (page.dotsPerInch * image.width) / page.width,
			text: page.text,
			...(page.added.length > 0 ? { added: { drawn: page.added, dotsPerInch: page.dotsPerInch } } : {})
		});
	}
	return makePdf({ ...input, pages, created: new Date(input.created) });
}

async function imageOf(page: FilePage): Promise<PageImage> {
	const holds = heldBy(page.tone);
	return {
		format: holds === 'ink' ? 'g4' : 'jpeg',
		width: page.width,
		height: page.height,
		channels: holds === 'colours' ? 3 : 1,
		bytes: await readFile(page.image)
	};
}

/** Of pictures of pages that something was drawn on. */
const MARKED_QUALITY = 80;

async function zipOf(input: MakeFileInput): Promise<Uint8Array> {
	const { withMarksOn } = await import('../codec/marksOnImage');
	const pages = [];
	for (const page of input.pages) {
		const isPng = heldBy(page.tone) === 'ink';
		// Black and white is small already, and what is drawn on has the page's own pixels.
		const isCoarser = page.encoding && !isPng && page.added.length === 0;
		const kept = isCoarser ? (await encodeCoarser(page, page.encoding!)).bytes : await readFile(page.view);
		const quality = page.encoding?.quality ?? MARKED_QUALITY;
		const bytes = page.added.length > 0 ? await withMarksOn(kept, page.added, quality) : kept;
		pages.push({ bytes, extension: isPng ? ('png' as const) : ('jpg' as const) });
	}
	return zipPages(input.name, pages, new Date(input.created));
}

/** Writes a file so that nobody ever sees half of it. */
async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
	await mkdir(dirname(path), { recursive: true });
	const temporary = `${path}.${randomUUID()}.part`;
	await writeFile(temporary, bytes);
	await rename(temporary, path);
}

function exists(path: string): Promise<boolean> {
	return access(path).then(
		() => true,
		() => false
	);
}
