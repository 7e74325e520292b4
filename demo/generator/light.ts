import { gaussianBlur } from '../../src/lib/core/raster/boxBlur';
import type { Picture } from '../../src/lib/core/raster/picture';
import type { PhotographSpec } from './photograph';
import type { Random } from './random';

/** Multiplies in the lamp: fall-off, warmth, a cast shadow, and adds a mirrored lamp. */
export function light(view: Picture, spec: PhotographSpec, random: Random): void {
	const data = view.data as Uint8Array;
	const { width, height } = view;
	const direction = random.between(0, 2 * Math.PI);
	const dx = Math.cos(direction);
	const dy = Math.sin(direction);
	const falloff = spec.falloff ?? 0.15;
	const warmth = spec.warmth ?? 0.25;
	const green = 1 - 0.1 * warmth;
	const blue = 1 - 0.32 * warmth;
	const edgeAt = random.between(-0.1, 0.25);
	const bend = random.between(0.04, 0.1);
	const phase = random.between(0, 6);
	const softness = spec.shadow === undefined ? 1 : 0.1 * (1 - spec.shadow) + 0.002;
	const gx = random.between(0.35, 0.65);
	const gy = random.between(0.3, 0.7);
	for (let y = 0, p = 0; y < height; y++) {
		for (let x = 0; x < width; x++, p += 3) {
			const u = x / width - 0.5;
			const v = y / height - 0.5;
			let k = 1 - falloff * (0.5 + u * dx + v * dy);
			if (spec.shadow !== undefined) {
				const along = u * dx + v * dy;
				const across = -u * dy + v * dx;
				const straight = along - edgeAt;
				// Beyond the reach of its bends and its soft edge the shadow is whole, or there is none.
				const s =
					Math.abs(straight) > bend + softness
						? Number(straight > 0)
						: Math.min(1, Math.max(0, (straight - bend * Math.sin(phase + 7 * across)) / softness + 0.5));
				k *= 1 - 0.48 * s * s * (3 - 2 * s);
			}
			const shine = spec.glare
				? 190 * spec.glare * Math.exp(-(((u + 0.5 - gx) / 0.09) ** 2 + ((v + 0.5 - gy) / 0.06) ** 2))
				: 0;
			data[p] = Math.min(255, data[p]! * k + shine);
			data[p + 1] = Math.min(255, data[p + 1]! * k * green + shine);
			data[p + 2] = Math.min(255, data[p + 2]! * k * blue + shine);
		}
	}
}

/** Sensor noise from a table, entered anew at random every so often: a call a sample is too slow. */
export function addNoise(data: Uint8Array, deviation: number, random: Random): void {
	const table = Float32Array.from({ length: 8192 }, () => random.normal() * deviation);
	for (let from = 0; from < data.length; from += 997) {
		const at = random.whole(0, 8191);
		const to = Math.min(from + 997, data.length);
		for (let i = from; i < to; i++) {
			const value = data[i]! + table[(at + i) & 8191]!;
			data[i] = value < 0 ? 0 : value > 255 ? 255 : value;
		}
	}
}

/** Out of focus: a Gaussian of this many pixels. */
export function blur(view: Picture, sigma: number): void {
	const { width, height } = view;
	const data = view.data as Uint8Array;
	const plane = new Float32Array(width * height);
	for (let k = 0; k < 3; k++) {
		takeChannel(data, k, plane);
		putChannel(gaussianBlur({ width, height, data: plane }, sigma).data, k, data);
	}
}

function takeChannel(data: Uint8Array, channel: number, plane: Float32Array): void {
	for (let i = 0, p = channel; i < plane.length; i++, p += 3) plane[i] = data[p]!;
}

function putChannel(plane: Float32Array, channel: number, data: Uint8Array): void {
	for (let i = 0, p = channel; i < plane.length; i++, p += 3) data[p] = plane[i]!;
}
