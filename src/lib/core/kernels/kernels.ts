import * as compiled from './assembly/index.ts?kernels';
import type { instantiate } from './signatures';

/** The compiled module; undefined where no build has compiled it, as under the browser tests' own loader. */
const bytes = (compiled as { readonly default?: Uint8Array<ArrayBuffer> }).default;

/** The functions of `assembly/`, as its compiler describes them; pointers and sizes are bytes in the module's memory. */
type Functions = Awaited<ReturnType<typeof instantiate>>;

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
