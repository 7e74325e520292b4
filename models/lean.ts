import { floatAttribute, floatOf, intAttribute, intsOf, OnnxGraph, type Node } from './onnxGraph.ts';

/**
 * The same network in fewer steps. A published model is written down as it was trained: what scales a convolution stands
 * behind it as a multiple and a sum, and a hard swish, x * clip(x + 3, 0, 6) / 6, as four steps. Each of them goes through
 * a whole picture's channels once more, and the runtime, which keeps channels of convolutions interleaved, has to lay them
 * out anew before and after. Most of the detector's time went there.
 *
 * Nothing is approximated: outputs are the same but for the rounding of floating point.
 *
 * @param bytes an ONNX file
 * @returns an ONNX file with the same inputs and outputs
 */
export function leanModel(bytes: Uint8Array): Uint8Array {
	const graph = new OnnxGraph(bytes);
	mergeHardSwish(graph);
	mergeExcitation(graph);
	foldIntoConvolutionBefore(graph);
	foldIntoConvolutionsAfter(graph);
	enlargeLast(graph);
	keepInterleaved(graph);
	return graph.bytes();
}

/** x to factor * x + term, with one number for all channels or one for each. */
interface Affine {
	readonly from: string;
	readonly factor: Float32Array;
	readonly term: Float32Array;
}

const ONE = Float32Array.of(1);
const ZERO = Float32Array.of(0);

const at = (values: Float32Array, channel: number) => values[values.length === 1 ? 0 : channel]!;

/** What a step does as a multiple and a sum; null where it does more. */
function affineOf(graph: OnnxGraph, node: Node | null): Affine | null {
	if (node?.opType === 'BatchNormalization') return normalisation(graph, node);
	if (!node || !['Mul', 'Add', 'Div'].includes(node.opType)) return null;
	const [first, second] = node.input as [string, string];
	const [constant, from] =
		graph.constant(second) !== null
			? [graph.constant(second)!, first]
			: [node.opType === 'Div' ? null : graph.constant(first), second];
	if (!constant || graph.constant(from)) return null;
	const { dims, data } = constant;
	// Channels are the third dimension from the end.
	const isPerChannel = dims.length >= 3 && data.length === dims.at(-3);
	if (data.length !== 1 && !isPerChannel) return null;
	if (node.opType === 'Add') return { from, factor: ONE, term: data };
	return { from, factor: node.opType === 'Mul' ? data : data.map((v) => 1 / v), term: ZERO };
}

function normalisation(graph: OnnxGraph, node: Node): Affine | null {
	const [scale, bias, mean, variance] = node.input.slice(1).map((name) => graph.constant(name)?.data);
	if (!scale || !bias || !mean || !variance) return null;
	const epsilon = floatOf(node, 'epsilon') ?? 1e-5;
	const factor = scale.map((s, c) => s / Math.sqrt(variance[c]! + epsilon));
	return { from: node.input[0]!, factor, term: bias.map((b, c) => b - mean[c]! * factor[c]!) };
}

interface Convolution {
	readonly node: Node;
	readonly dims: readonly number[];
	readonly weights: Float32Array;
	readonly bias: Float32Array;
	readonly channels: number;
	readonly transposed: boolean;
}

/** A convolution whose weights are known; null for any other step. */
function convolution(graph: OnnxGraph, node: Node | null): Convolution | null {
	const weights = graph.constant(node?.input[1]);
	if (!node || !weights || !['Conv', 'ConvTranspose'].includes(node.opType)) return null;
	const transposed = node.opType === 'ConvTranspose';
	if (transposed && (node.attribute?.find((a) => a.name === 'group')?.i ?? 1).toString() !== '1') return null;
	const channels = weights.dims[transposed ? 1 : 0]!;
	const bias = node.input[2] ? graph.constant(node.input[2])?.data : new Float32Array(channels);
	return bias ? { node, dims: weights.dims, weights: weights.data, bias, channels, transposed } : null;
}

function setWeights(
	graph: OnnxGraph,
	{ node, dims }: Convolution,
	from: string,
	weights: Float32Array,
	bias: Float32Array
): void {
	node.input = [from, graph.addConstant(dims, weights), graph.addConstant([bias.length], bias)];
}

/** How many channels a value has; null where that does not follow from a convolution before it. */
function channelsOf(graph: OnnxGraph, value: string): number | null {
	const maker = graph.maker(value);
	const found = convolution(graph, maker);
	if (found) return found.channels;
	const keeps = maker && (maker.opType === 'Clip' || maker.opType === 'Mul' || affineOf(graph, maker));
	const before = keeps ? maker.input.find((name) => !graph.constant(name)) : undefined;
	return before ? channelsOf(graph, before) : null;
}

/** clip(x + 3, 0, 6) / 6 as a convolution of one pixel with a limit, which the runtime does in one go; times x. */
function mergeHardSwish(graph: OnnxGraph): void {
	for (const clip of graph.nodes.filter((node) => node.opType === 'Clip')) {
		const limit = (index: number, name: string) =>
			graph.constant(clip.input[index])?.data[0] ?? floatOf(clip, name);
		const shift = graph.maker(clip.input[0]);
		const shifted = affineOf(graph, shift);
		const product = graph.onlyUser(clip.output[0]);
		const division = graph.onlyUser(product?.output[0]);
		const divided = affineOf(graph, division);
		const channels = shifted && channelsOf(graph, shifted.from);
		const isHardSwish =
			limit(1, 'min') === 0 &&
			limit(2, 'max') === 6 &&
			shift?.opType === 'Add' &&
			shifted?.term.length === 1 &&
			shifted.term[0] === 3 &&
			graph.onlyUser(shift.output[0]) === clip &&
			product?.opType === 'Mul' &&
			product.input.includes(shifted.from) &&
			divided?.factor.length === 1 &&
			Math.abs(divided.factor[0]! - 1 / 6) < 1e-6;
		if (!isHardSwish || !channels) continue;
		const line = pixelwise(graph, shifted.from, channels, 1 / 6, 1 / 2);
		const gate = limited(graph, line.output[0]!);
		const swish: Node = {
			opType: 'Mul',
			name: graph.newName(),
			input: [shifted.from, gate.output[0]!],
			output: division!.output
		};
		graph.replace(division!, [line, gate, swish], [shift, clip, product]);
	}
}

/** factor * x + term as a convolution of one pixel, each channel by itself. */
function pixelwise(graph: OnnxGraph, value: string, channels: number, factor: number, term: number): Node {
	return pointConvolution(graph, value, graph.newName(), channels, {
		dims: [channels, 1],
		weights: new Float32Array(channels).fill(factor),
		bias: new Float32Array(channels).fill(term)
	});
}

/** Between 0 and 1. */
function limited(graph: OnnxGraph, value: string): Node {
	const name = graph.newName();
	const node: Node = { opType: 'Clip', name, input: [value], output: [name] };
	// Before version 11 the limits were attributes.
	if (graph.opset >= 11) {
		const limits = [ZERO, ONE].map((data) => graph.addConstant([], data));
		return { ...node, input: [value, ...limits] };
	}
	return { ...node, attribute: [floatAttribute('min', 0), floatAttribute('max', 1)] };
}

/** x + x * gate, where the gate has one number a channel, as x * (1 + gate). */
function mergeExcitation(graph: OnnxGraph): void {
	for (const sum of graph.nodes.filter((node) => node.opType === 'Add')) {
		for (const value of sum.input) {
			const product = graph.maker(sum.input.find((name) => name !== value));
			const gate = product?.input.find((name) => graph.maker(name)?.opType === 'HardSigmoid');
			const isExcitation =
				product?.opType === 'Mul' &&
				gate &&
				product.input.includes(value) &&
				graph.onlyUser(product.output[0]) === sum;
			if (!isExcitation) continue;
			const more = graph.newName();
			const one = graph.addConstant([1], ONE);
			graph.replace(
				sum,
				[
					{ opType: 'Add', name: more, input: [gate, one], output: [more] },
					{ opType: 'Mul', name: graph.newName(), input: [value, more], output: sum.output }
				],
				[product]
			);
			break;
		}
	}
}

/** A multiple and a sum behind a convolution, and normalisations, become part of its weights. */
function foldIntoConvolutionBefore(graph: OnnxGraph): void {
	// In their order: what is folded makes way for what stands behind it.
	for (const node of [...graph.nodes]) {
		const affine = affineOf(graph, node);
		const before = affine && convolution(graph, graph.maker(affine.from));
		if (!before || graph.onlyUser(affine.from) !== node) continue;
		const { weights, channels, dims, transposed } = before;
		if ([affine.factor, affine.term].some(({ length }) => length !== 1 && length !== channels)) continue;
		const perInput = dims.slice(2).reduce((a, b) => a * b, 1);
		const perOutput = weights.length / channels;
		const channelOf = (i: number) =>
			transposed ? Math.floor(i / perInput) % channels : Math.floor(i / perOutput);
		const bias = before.bias.map((b, c) => b * at(affine.factor, c) + at(affine.term, c));
		setWeights(
			graph,
			before,
			before.node.input[0]!,
			weights.map((w, i) => w * at(affine.factor, channelOf(i))),
			bias
		);
		before.node.output = node.output;
		graph.replace(node, []);
	}
}

/**
 * Two steps that each make four pixels of one become convolutions of one pixel, with four times the channels and then
 * sixteen, and one step that lays these out as pixels: what lies between is never written down at twice the size, and the
 * convolutions are the runtime's fast ones.
 */
function enlargeLast(graph: OnnxGraph): void {
	for (const node of [...graph.nodes]) {
		const first = doubling(graph, node);
		const limit = first && graph.onlyUser(node.output[0]);
		const second = limit?.opType === 'Relu' ? doubling(graph, graph.onlyUser(limit.output[0])) : null;
		if (!first || !second || second.channels !== 1) continue;
		const inner = first.channels;
		const from = first.dims[0]!;
		const weights = new Float32Array(4 * inner * from);
		const inEach = new Float32Array(16 * inner);
		for (let quarter = 0; quarter < 4; quarter++) {
			for (let c = 0; c < inner; c++) {
				for (let k = 0; k < from; k++)
					weights[(quarter * inner + c) * from + k] = first.weights[(k * inner + c) * 4 + quarter]!;
				for (let within = 0; within < 4; within++)
					inEach[(quarter * 4 + within) * inner + c] = second.weights[c * 4 + within]!;
			}
		}
		const wide = pointConvolution(graph, node.input[0]!, node.output[0]!, 1, {
			dims: [4 * inner, from],
			weights,
			bias: Float32Array.from({ length: 4 * inner }, (_, i) => first.bias[i % inner]!)
		});
		const sixteenth = graph.newName();
		const narrow = pointConvolution(graph, limit!.output[0]!, sixteenth, 4, {
			dims: [16, inner],
			weights: inEach,
			bias: new Float32Array(16).fill(second.bias[0]!)
		});
		const quarters = graph.newName();
		const layOut = (input: string, output: string): Node => ({
			opType: 'DepthToSpace',
			name: output,
			input: [input],
			output: [output],
			attribute: [intAttribute('blocksize', 2)]
		});
		graph.replace(node, [wide]);
		graph.replace(second.node, [
			narrow,
			layOut(sixteenth, quarters),
			layOut(quarters, second.node.output[0]!)
		]);
	}
}

/** A step that makes of each pixel two by two, which no other pixel is part of; null for any other. */
function doubling(graph: OnnxGraph, node: Node | null): Convolution | null {
	const found = convolution(graph, node);
	const isDoubling =
		found?.transposed &&
		found.dims.slice(2).join() === '2,2' &&
		intsOf(found.node, 'strides').join() === '2,2' &&
		['pads', 'output_padding', 'output_shape'].every((name) =>
			intsOf(found.node, name).every((n) => n === 0)
		);
	return isDoubling ? found : null;
}

/** A convolution of one pixel. */
function pointConvolution(
	graph: OnnxGraph,
	from: string,
	to: string,
	group: number,
	numbers: { dims: readonly [number, number]; weights: Float32Array; bias: Float32Array }
): Node {
	const { dims, weights, bias } = numbers;
	return {
		opType: 'Conv',
		name: to,
		input: [from, graph.addConstant([...dims, 1, 1], weights), graph.addConstant([bias.length], bias)],
		output: [to],
		attribute: [
			intAttribute('dilations', [1, 1]),
			intAttribute('kernel_shape', [1, 1]),
			intAttribute('strides', [1, 1]),
			intAttribute('pads', [0, 0, 0, 0]),
			intAttribute('group', group)
		]
	};
}

/**
 * A multiple and a sum before convolutions become part of their weights: the sum only where no edge is padded, since
 * padding is 0 behind the sum and would not be before it.
 */
function foldIntoConvolutionsAfter(graph: OnnxGraph): void {
	for (const { nodes, from, factor, term } of scalesIn(graph)) {
		const last = nodes.at(-1)!;
		const users = graph.users(last.output[0]!);
		const after = users?.map((user) => (user.opType === 'Conv' ? convolution(graph, user) : null)) ?? [];
		const canFold =
			after.length > 0 &&
			after.every(
				(conv) =>
					conv &&
					conv.node.input[0] === last.output[0] &&
					(term === 0 || intsOf(conv.node, 'pads').every((pad) => pad === 0))
			);
		if (!canFold) continue;
		for (const conv of after) {
			const { weights, bias, channels } = conv!;
			const each = weights.length / channels;
			const sums = bias.map((_, c) => weights.subarray(c * each, (c + 1) * each).reduce((a, b) => a + b, 0));
			setWeights(
				graph,
				conv!,
				from,
				weights.map((w) => w * factor),
				bias.map((b, c) => b + term * sums[c]!)
			);
		}
		graph.replace(last, [], nodes);
	}
}

/** A multiple and a sum behind a product become a convolution of one pixel, for which nothing is laid out anew. */
function keepInterleaved(graph: OnnxGraph): void {
	for (const { nodes, from, factor, term } of scalesIn(graph)) {
		const channels = graph.maker(from)?.opType === 'Mul' ? channelsOf(graph, from) : null;
		if (!channels) continue;
		const last = nodes.at(-1)!;
		const conv = pixelwise(graph, from, channels, factor, term);
		graph.replace(last, [{ ...conv, output: last.output }], nodes);
	}
}

/** Multiples and sums by one number, each with the sum that follows it. */
function* scalesIn(
	graph: OnnxGraph
): Generator<{ nodes: readonly Node[]; from: string; factor: number; term: number }> {
	const done = new Set<Node>();
	for (const node of [...graph.nodes]) {
		const first = affineOf(graph, node);
		if (done.has(node) || !first || first.factor.length > 1 || first.term.length > 1) continue;
		const next = graph.onlyUser(node.output[0]);
		const second = next?.opType === 'Add' ? affineOf(graph, next) : null;
		const isBoth = next && second?.term.length === 1;
		if (isBoth) done.add(next);
		yield {
			nodes: isBoth ? [node, next] : [node],
			from: first.from,
			factor: first.factor[0]!,
			term: first.term[0]! + (isBoth ? second.term[0]! : 0)
		};
	}
}
