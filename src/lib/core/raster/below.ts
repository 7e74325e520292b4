import { withKernels } from '../kernels/kernels';
import type { Plane } from './picture';

/** 1 where a plane is darker than `limit`, 0 elsewhere, `width x height`. */
export function below({ data }: Plane, limit: number): Uint8Array {
	const whole = Math.min(Math.max(Math.ceil(limit), 0), 255);
	return withKernels(
		(kernels) => {
			const source = kernels.put(data);
			const out = kernels.room(data.length);
			kernels.run.below(source, data.length, whole, out);
			return kernels.bytes(out, data.length);
		},
		() => {
			const out = new Uint8Array(data.length);
			for (let i = 0; i < out.length; i++) out[i] = data[i]! < whole ? 1 : 0;
			return out;
		}
	);
}

/** How many pixels of a mask of 0 and 1 are 1. */
export function countInk(ink: Uint8Array): number {
	return withKernels(
		(kernels) => kernels.run.countInk(kernels.put(ink), ink.length),
		() => {
			let sum = 0;
			for (let i = 0; i < ink.length; i++) sum += ink[i]!;
			return sum;
		}
	);
}
