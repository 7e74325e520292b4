import { readFileSync } from 'node:fs';
import { InferenceSession, Tensor } from 'onnxruntime-node';
import { describe, expect, it } from 'vitest';
import { publishedModel } from '../modelsPlugin.ts';
import { Random } from '../demo/generator/random';
import { leanModel } from './lean.ts';
import { floatAttribute, intAttribute, onnx, OnnxGraph, type Node } from './onnxGraph.ts';

const random = new Random(17);
const numbers = (count: number) => Float32Array.from({ length: count }, () => random.between(-1, 1));

/** A network of steps with constants, from `x` to the given outputs. */
class Drawn {
	readonly nodes: Node[] = [];

	constructor(
		readonly channels: number,
		readonly opset: number
	) {}

	constant(dims: number[], data: Float32Array): string {
		const name = `c${this.nodes.length}`;
		const t = onnx.TensorProto.create({ dims, dataType: 1, rawData: new Uint8Array(data.buffer) });
		const attribute = [onnx.AttributeProto.create({ name: 'value', type: 4, t })];
		this.nodes.push({ opType: 'Constant', name, input: [], output: [name], attribute });
		return name;
	}

	step(opType: string, input: string[], attribute: NonNullable<Node['attribute']> = []): string {
		const name = `v${this.nodes.length}`;
		this.nodes.push({ opType, name, input, output: [name], attribute });
		return name;
	}

	by(opType: 'Mul' | 'Add' | 'Div', from: string, value: number): string {
		return this.step(opType, [from, this.constant([1], Float32Array.of(value))]);
	}

	conv(from: string, channels: number, kernel: number, group = 1): string {
		const each = this.channels / group;
		const weights = this.constant(
			[channels, each, kernel, kernel],
			numbers(channels * each * kernel * kernel)
		);
		const pad = (kernel - 1) / 2;
		return this.step(
			'Conv',
			[from, weights, this.constant([channels], numbers(channels))],
			[
				intAttribute('kernel_shape', [kernel, kernel]),
				intAttribute('pads', [pad, pad, pad, pad]),
				intAttribute('group', group)
			]
		);
	}

	hardSwish(from: string): string {
		const more = this.by('Add', from, 3);
		const limits =
			this.opset < 11
				? this.step('Clip', [more], [floatAttribute('min', 0), floatAttribute('max', 6)])
				: this.step('Clip', [
						more,
						this.constant([], Float32Array.of(0)),
						this.constant([], Float32Array.of(6))
					]);
		return this.by('Div', this.step('Mul', [from, limits]), 6);
	}

	bytes(...outputs: string[]): Uint8Array {
		const value = (name: string, dims: (number | string)[]) =>
			onnx.ValueInfoProto.create({
				name,
				type: {
					tensorType: {
						elemType: 1,
						shape: {
							dim: dims.map((d) => (typeof d === 'number' ? { dimValue: d } : { dimParam: d }))
						}
					}
				}
			});
		const model = onnx.ModelProto.create({
			irVersion: 7,
			opsetImport: [{ domain: '', version: this.opset }],
			graph: {
				name: 'drawn',
				node: this.nodes,
				input: [value('x', [1, this.channels, 'height', 'width'])],
				output: outputs.map((name) => value(name, [1, this.channels, 'height', 'width']))
			}
		});
		return onnx.ModelProto.encode(model).finish();
	}
}

async function outputs(bytes: Uint8Array, shape: readonly number[], data: Float32Array) {
	const session = await InferenceSession.create(bytes, { intraOpNumThreads: 1, logSeverityLevel: 3 });
	const result = await session.run({ [session.inputNames[0]!]: new Tensor('float32', data, [...shape]) });
	return session.outputNames.map((name) => result[name]!.data as Float32Array);
}

/** The same outputs for the same input, but for rounding. */
async function expectSame(
	bytes: Uint8Array,
	lean: Uint8Array,
	shape: readonly number[],
	data = numbers(shape.reduce((a, b) => a * b, 1))
) {
	const before = await outputs(bytes, shape, data);
	const after = await outputs(lean, shape, data);
	expect(after.length).toBe(before.length);
	before.forEach((values, i) => {
		const greatest = values.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
		expect(greatest).toBeGreaterThan(0.1);
		const furthest = values.reduce((most, v, j) => Math.max(most, Math.abs(v - after[i]![j]!)), 0);
		expect(furthest / greatest).toBeLessThan(2e-5);
	});
}

/** A line of strokes that lean now this way, now that way, dark on light, in a picture of the given shape. */
function strokes([count, channels, height, width]: readonly [number, number, number, number]) {
	const data = new Float32Array(count * channels * height * width).fill(1);
	data.forEach((_, i) => {
		const x = i % width;
		const y = Math.floor(i / width) % height;
		const across = (x + (Math.floor(x / 24) % 2 ? 1 : -1) * y * 0.4) % 9;
		if (Math.abs(y - height / 2) < 14 && x > 20 && x < width - 20 && across < 3) data[i] = -1;
	});
	return data;
}

const steps = (bytes: Uint8Array) =>
	new OnnxGraph(bytes).nodes.map(({ opType }) => opType).filter((opType) => opType !== 'Constant');

describe('a leaner network', () => {
	it.each([9, 13])('says the same to its very edges, opset %i', async (opset) => {
		const drawn = new Drawn(16, opset);
		const scaled = drawn.by('Add', drawn.by('Mul', drawn.conv('x', 16, 3), 1.7), -0.4);
		const swish = drawn.by('Add', drawn.by('Mul', drawn.hardSwish(scaled), 0.6), 0.9);
		// A sum before padding cannot become part of the convolution behind it: the edges would differ.
		const padded = drawn.hardSwish(drawn.conv(swish, 16, 3, 16));
		const pointwise = drawn.conv(drawn.by('Add', drawn.by('Mul', padded, -1.3), 0.2), 16, 1);
		const bytes = drawn.bytes(pointwise);
		const lean = leanModel(bytes);
		await expectSame(bytes, lean, [1, 16, 7, 9]);
		expect(steps(lean)).toEqual([
			...['Conv', 'Conv', 'Clip', 'Mul', 'Conv'],
			...['Conv', 'Conv', 'Clip', 'Mul', 'Conv']
		]);
	});

	it('folds normalisations, also behind what enlarges', async () => {
		const drawn = new Drawn(4, 13);
		const transposed = drawn.step(
			'ConvTranspose',
			['x', drawn.constant([4, 6, 2, 2], numbers(96))],
			[intAttribute('kernel_shape', [2, 2]), intAttribute('strides', [2, 2])]
		);
		const summed = drawn.step('Add', [transposed, drawn.constant([1, 6, 1, 1], numbers(6))]);
		const parts = [1, 2, 3].map(() => drawn.constant([6], numbers(6)));
		const variance = drawn.constant(
			[6],
			numbers(6).map((v) => v * v + 0.1)
		);
		const bytes = drawn.bytes(
			drawn.step('BatchNormalization', [summed, ...parts, variance], [floatAttribute('epsilon', 1e-5)])
		);
		const lean = leanModel(bytes);
		await expectSame(bytes, lean, [1, 4, 5, 3]);
		expect(steps(lean)).toEqual(['ConvTranspose']);
	});

	it('enlarges twice in one step, and only where nothing overlaps', async () => {
		const drawn = new Drawn(4, 13);
		const double = (from: string, before: number, channels: number, more: NonNullable<Node['attribute']>) =>
			drawn.step(
				'ConvTranspose',
				[
					from,
					...[[before, channels, 2, 2], [channels]].map((d) =>
						drawn.constant(d, numbers(d.reduce((a, b) => a * b)))
					)
				],
				[intAttribute('kernel_shape', [2, 2]), intAttribute('strides', [2, 2]), ...more]
			);
		const whole = double(drawn.step('Relu', [double('x', 4, 3, [])]), 3, 1, []);
		const cut = intAttribute('pads', [1, 1, 0, 0]);
		const other = double(drawn.step('Relu', [double('x', 4, 3, [cut])]), 3, 1, []);
		const bytes = drawn.bytes(whole, other);
		const lean = leanModel(bytes);
		await expectSame(bytes, lean, [1, 4, 3, 5]);
		expect(steps(lean)).toEqual([
			...['Conv', 'Relu', 'Conv', 'DepthToSpace', 'DepthToSpace'],
			...['ConvTranspose', 'Relu', 'ConvTranspose']
		]);
	});

	it('lets a gate be added to what it opens in one step', async () => {
		const drawn = new Drawn(8, 13);
		const value = drawn.conv('x', 8, 3);
		const gate = drawn.step(
			'HardSigmoid',
			[drawn.conv(drawn.step('GlobalAveragePool', [value]), 8, 1)],
			[floatAttribute('alpha', 0.2), floatAttribute('beta', 0.5)]
		);
		const bytes = drawn.bytes(drawn.step('Add', [value, drawn.step('Mul', [value, gate])]));
		const lean = leanModel(bytes);
		await expectSame(bytes, lean, [1, 8, 6, 6]);
		expect(steps(lean)).toEqual(['Conv', 'GlobalAveragePool', 'Conv', 'HardSigmoid', 'Add', 'Mul']);
	});

	it('leaves what something else needs as well', async () => {
		const drawn = new Drawn(8, 13);
		const value = drawn.conv('x', 8, 3);
		const scaled = drawn.by('Mul', value, 3);
		const bytes = drawn.bytes(drawn.conv(scaled, 8, 3), value, scaled);
		const lean = leanModel(bytes);
		await expectSame(bytes, lean, [1, 8, 5, 5]);
		expect(steps(lean)).toEqual(['Conv', 'Mul', 'Conv']);
	});

	it.each([
		['detector', [1, 3, 96, 160]],
		['recogniser', [1, 3, 48, 200]]
	] as const)('%s: says what the published one says', async (name, shape) => {
		const published = readFileSync(publishedModel(name));
		const lean = leanModel(published);
		await expectSame(published, lean, shape, strokes(shape));
		// Most of what was between convolutions is gone.
		const between = (bytes: Uint8Array) => steps(bytes).filter((step) => /^(Add|Mul|Div|Clip)$/.test(step));
		expect(between(lean).length).toBeLessThan(0.7 * between(published).length);
	});
});
