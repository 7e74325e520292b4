import { createRequire } from 'node:module';
import type { onnx as Onnx } from 'onnx-proto';

// The package is CommonJS and says that it is not.
export const { onnx } = createRequire(import.meta.url)('onnx-proto') as typeof import('onnx-proto');

export type Node = Onnx.INodeProto & { opType: string; input: string[]; output: string[] };

export interface Constant {
	readonly dims: readonly number[];
	readonly data: Float32Array;
}

const FLOAT = 1;

/** A network as ONNX writes it down: steps in an order in which they can be run, and the numbers that they need. */
export class OnnxGraph {
	nodes: Node[];
	readonly #model: Onnx.ModelProto;
	readonly #constants = new Map<string, Constant>();
	readonly #made: Node[] = [];
	#count = 0;

	constructor(bytes: Uint8Array) {
		this.#model = onnx.ModelProto.decode(bytes);
		this.nodes = this.#model.graph!.node as Node[];
		for (const node of this.nodes) {
			const tensor = node.opType === 'Constant' ? node.attribute?.[0]?.t : null;
			if (tensor?.dataType === FLOAT) this.#constants.set(node.output[0]!, constantOf(tensor));
		}
		for (const tensor of this.#model.graph!.initializer ?? []) {
			if (tensor.dataType === FLOAT) this.#constants.set(tensor.name!, constantOf(tensor));
		}
	}

	/** Version of ONNX's own set of steps. */
	get opset(): number {
		return Number(this.#model.opsetImport.find((set) => !set.domain)?.version ?? 1);
	}

	constant(name: string | undefined): Constant | null {
		return (name && this.#constants.get(name)) || null;
	}

	addConstant(dims: readonly number[], data: Float32Array): string {
		const name = this.newName();
		this.#constants.set(name, { dims, data });
		const t = onnx.TensorProto.create({
			dims: [...dims],
			dataType: FLOAT,
			rawData: new Uint8Array(data.slice().buffer)
		});
		const value = onnx.AttributeProto.create({
			name: 'value',
			type: onnx.AttributeProto.AttributeType.TENSOR,
			t
		});
		this.#made.push({ opType: 'Constant', name, input: [], output: [name], attribute: [value] });
		return name;
	}

	newName(): string {
		return `lean.${this.#count++}`;
	}

	/** The step that makes a value; null for inputs and constants. */
	maker(value: string | undefined): Node | null {
		return this.nodes.find((node) => node.output.includes(value ?? '') && node.opType !== 'Constant') ?? null;
	}

	/** The steps that need a value; null where the network gives it out as well. */
	users(value: string): Node[] | null {
		if (this.#model.graph!.output!.some((output) => output.name === value)) return null;
		return this.nodes.filter((node) => node.input.includes(value));
	}

	/** The one step that needs a value; null where there are others, or the network gives it out. */
	onlyUser(value: string | undefined): Node | null {
		const users = value ? this.users(value) : null;
		return users?.length === 1 ? users[0]! : null;
	}

	/** Puts steps in the place of one, and takes others away. */
	replace(node: Node, by: readonly Node[], without: readonly Node[] = []): void {
		this.nodes.splice(this.nodes.indexOf(node), 1, ...by);
		this.nodes = this.nodes.filter((other) => !without.includes(other));
	}

	/** The file. Constants that nothing needs any more are left out. */
	bytes(): Uint8Array {
		const needed = new Set(this.nodes.flatMap((node) => node.input));
		const all = [...this.#made, ...this.nodes];
		this.#model.graph!.node = all.filter((n) => n.opType !== 'Constant' || needed.has(n.output[0]!));
		return onnx.ModelProto.encode(this.#model).finish();
	}
}

function constantOf(tensor: Onnx.ITensorProto): Constant {
	const raw = tensor.rawData;
	const data = raw?.length
		? new Float32Array(new Uint8Array(raw).buffer)
		: Float32Array.from(tensor.floatData ?? []);
	return { dims: (tensor.dims ?? []).map(Number), data };
}

/** Whole numbers of an attribute; none where it is absent. */
export function intsOf(node: Node, name: string): number[] {
	return (node.attribute?.find((a) => a.name === name)?.ints ?? []).map(Number);
}

/** A number that a step has as an attribute; null where it is absent. */
export function floatOf(node: Node, name: string): number | null {
	return node.attribute?.find((a) => a.name === name)?.f ?? null;
}

/** A number as an attribute. */
export function floatAttribute(name: string, f: number): Onnx.IAttributeProto {
	return onnx.AttributeProto.create({ name, type: onnx.AttributeProto.AttributeType.FLOAT, f });
}

/** A whole number as an attribute, or a list of them. */
export function intAttribute(name: string, value: number | readonly number[]): Onnx.IAttributeProto {
	const { INT, INTS } = onnx.AttributeProto.AttributeType;
	return typeof value === 'number'
		? onnx.AttributeProto.create({ name, type: INT, i: value })
		: onnx.AttributeProto.create({ name, type: INTS, ints: [...value] });
}
