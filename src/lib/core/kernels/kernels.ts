import * as compiled from './assembly/index.ts?kernels';

/** The compiled module; undefined where no build has compiled it, as under the browser tests' own loader. */
const bytes = (compiled as { readonly default?: Uint8Array<ArrayBuffer> }).default;

type LongRuns = (
	dark: number,
	width: number,
	height: number,
	least: number,
	gap: number,
	marks: number,
	scratch: number
) => void;

/** The functions of `assembly/`; pointers and sizes are bytes in the module's memory. */
interface Functions {
	readonly memory: WebAssembly.Memory;
	memoryBase(): number;
	sampleRow(
		source: number,
		stride: number,
		channels: number,
		u: number,
		v: number,
		w: number,
		stepU: number,
		stepV: number,
		stepW: number,
		count: number,
		out: number
	): void;
	averageRows(upper: number, lower: number, width: number, out: number): void;
	evenLight(
		source: number,
		channels: number,
		width: number,
		height: number,
		map: number,
		columns: number,
		rows: number,
		rgb: number,
		grey: number,
		scratch: number
	): void;
	cellSums(
		source: number,
		width: number,
		side: number,
		columns: number,
		rows: number,
		sums: number,
		squares: number,
		scratch: number
	): void;
	threshold(
		source: number,
		width: number,
		height: number,
		radius: number,
		paper: number,
		k: number,
		clearance: number,
		spread: number,
		darkest: number,
		leastStep: number,
		solid: number,
		ink: number,
		scratch: number
	): void;
	inkRuns(ink: number, width: number, height: number, out: number): number;
	halve(source: number, width: number, w: number, h: number, out: number): void;
	lightInBlocks(
		source: number,
		width: number,
		height: number,
		channels: number,
		block: number,
		step: number,
		columns: number,
		rows: number,
		wanted: number,
		dark: number,
		bright: number,
		out: number,
		histogram: number
	): void;
	boxBlur(
		source: number,
		width: number,
		height: number,
		radius: number,
		across: number,
		sums: number,
		out: number
	): void;
	shrinkRow(
		rows: number,
		stride: number,
		down: number,
		columns: number,
		across: number,
		width: number,
		out: number
	): void;
	edges(
		source: number,
		width: number,
		height: number,
		channels: number,
		radius: number,
		floor: number,
		paper: number,
		gx: number,
		gy: number,
		scratch: number
	): void;
	dropFaint(
		ink: number,
		source: number,
		width: number,
		height: number,
		level: number,
		darkest: number,
		cell: number,
		columns: number,
		certain: number,
		near: number,
		scratch: number
	): number;
	paint(ink: number, count: number): void;
	vote(
		gx: number,
		gy: number,
		width: number,
		height: number,
		least: number,
		strongest: number,
		directions: number,
		angles: number,
		diagonal: number,
		step: number,
		bins: number,
		votes: number
	): void;
	peaks(values: number, from: number, count: number, least: number, out: number): number;
	extremum(
		source: number,
		width: number,
		height: number,
		radius: number,
		isLargest: number,
		line: number,
		across: number,
		out: number
	): void;
	measureTiles(
		mask: number,
		width: number,
		height: number,
		coarse: number,
		coarseWidth: number,
		data: number,
		pageWidth: number,
		reach: number,
		columnOf: number,
		rowOf: number,
		tiles: number
	): void;
	below(source: number, count: number, limit: number, out: number): void;
	countInk(ink: number, count: number): number;
	readonly longRunsAcross: LongRuns;
	readonly longRunsDown: LongRuns;
	withoutRuling(
		data: number,
		dark: number,
		across: number,
		down: number,
		width: number,
		height: number,
		beyond: number,
		mask: number,
		sums: number
	): void;
}

/** Vectors may be read and written up to this far beyond what is asked for. */
const SPARE = 32;
/** A thread keeps this much memory from one page to the next; after a larger picture it is given back. */
const KEPT = 64 * 1024 * 1024;
const PAGE = 65_536;

type Samples = Uint8Array | Uint8ClampedArray | Uint16Array | Float32Array | Int32Array;

/** The module's memory, handed out from the bottom up for one piece of work at a time. */
export class Kernels {
	#free: number;
	readonly run: Functions;

	constructor(module: WebAssembly.Module) {
		// The functions call nothing outside; AssemblyScript asks for `abort` all the same where it is not compiled away.
		const env = { abort: () => undefined };
		this.run = new WebAssembly.Instance(module, { env }).exports as unknown as Functions;
		this.#free = this.run.memoryBase();
	}

	/** Room for so many bytes. @returns where it begins; what it holds is not set */
	room(size: number): number {
		const at = (this.#free + 15) & ~15;
		this.#free = at + size + SPARE;
		const missing = this.#free - this.run.memory.buffer.byteLength;
		if (missing > 0) this.run.memory.grow(Math.ceil(missing / PAGE));
		return at;
	}

	/** Room for so many bytes that are all 0. */
	cleared(size: number): number {
		const at = this.room(size);
		new Uint8Array(this.run.memory.buffer, at, size).fill(0);
		return at;
	}

	put(samples: Samples): number {
		const at = this.room(samples.byteLength);
		new Uint8Array(this.run.memory.buffer, at, samples.byteLength).set(
			new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength)
		);
		return at;
	}

	/** A copy of what the memory holds. */
	bytes(at: number, size: number): Uint8Array<ArrayBuffer> {
		return new Uint8Array(this.run.memory.buffer, at, size).slice();
	}

	floats(at: number, count: number): Float32Array<ArrayBuffer> {
		return new Float32Array(this.run.memory.buffer, at, count).slice();
	}

	integers(at: number, count: number): Int32Array<ArrayBuffer> {
		return new Int32Array(this.run.memory.buffer, at, count).slice();
	}

	/** A view like the next one. */
	doubles(at: number, count: number): Float64Array {
		return new Float64Array(this.run.memory.buffer, at, count);
	}

	/** A view that holds until room is next asked for. */
	view(at: number, size: number): Uint8Array {
		return new Uint8Array(this.run.memory.buffer, at, size);
	}

	get size(): number {
		return this.run.memory.buffer.byteLength;
	}

	reset(): void {
		this.#free = this.run.memoryBase();
	}
}

let module: WebAssembly.Module | null | undefined;
let kernels: Kernels | null = null;
let isOff = false;
let isBusy = false;

/**
 * Does a piece of work with the kernels, or in plain TypeScript where WebAssembly has no vectors. Both give the same.
 * The memory is one: what is asked for within such work is done in plain TypeScript.
 */
export function withKernels<T>(fast: (kernels: Kernels) => T, plain: () => T): T {
	const ready = isOff || isBusy ? null : open();
	if (!ready) return plain();
	isBusy = true;
	try {
		return fast(ready);
	} finally {
		isBusy = false;
		if (ready.size > KEPT) kernels = null;
		else ready.reset();
	}
}

/** Runs something in plain TypeScript, to compare. */
export function inPlainTypeScript<T>(work: () => T): T {
	isOff = true;
	try {
		return work();
	} finally {
		isOff = false;
	}
}

function open(): Kernels | null {
	if (module === undefined) {
		try {
			module = bytes ? new WebAssembly.Module(bytes) : null;
		} catch {
			module = null;
		}
	}
	return module && (kernels ??= new Kernels(module));
}
