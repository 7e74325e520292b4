import { readFile } from 'node:fs/promises';
import type { InferenceSession, Tensor } from 'onnxruntime-node';
import * as general from 'virtual:general-reader';
import { nodeBuild } from '../store/nodeBuild';

// The models of the general reader, and one of our own: they are installed with the application, never fetched.

type Model = 'detector' | 'recogniser' | 'short writing';

const sessions = new Map<Model, Promise<InferenceSession>>();

/** A model, loaded on first use and once in a thread. */
function session(model: Model): Promise<InferenceSession> {
	let loading = sessions.get(model);
	if (!loading) sessions.set(model, (loading = bytesOf(model).then((bytes) => sessionOf(model, bytes))));
	return loading;
}

/** Loads all of them, so that the first page need not wait for it. */
export async function loadModels(): Promise<void> {
	const models: readonly Model[] = ['detector', 'recogniser', 'short writing'];
	await Promise.all(models.map(session));
}

/** @throws with a sentence that says what to do where the bytes are no model */
export async function sessionOf(model: Model, bytes: Uint8Array): Promise<InferenceSession> {
	const { InferenceSession } = await import('onnxruntime-node');
	try {
		// Pages are worked on in several processes of ours; each model keeps to one thread.
		return await InferenceSession.create(bytes, {
			intraOpNumThreads: 1,
			interOpNumThreads: 1,
			enableCpuMemArena: false
		});
	} catch (error) {
		throw new Error(
			`The reader’s model (${model}) is damaged: install Membrana again, or start it with MEMBRANA_READER=off.`,
			{ cause: error }
		);
	}
}

async function bytesOf(model: Model): Promise<Uint8Array> {
	if (model !== 'short writing') return readFile(nodeBuild(general[model]));
	const { default: address } = await import('./shortWriting.onnx?inline');
	return Buffer.from(address.slice(address.indexOf(',') + 1), 'base64');
}

/** Runs a model on one input of the given shape. */
export async function run(
	model: Model,
	data: Float32Array,
	shape: readonly number[]
): Promise<{ data: Float32Array; shape: readonly number[] }> {
	const { Tensor: TensorOf } = await import('onnxruntime-node');
	const loaded = await session(model);
	const output = await loaded.run({ [loaded.inputNames[0]!]: new TensorOf('float32', data, [...shape]) });
	const result: Tensor = output[loaded.outputNames[0]!]!;
	return { data: result.data as Float32Array, shape: result.dims };
}

/** What the recogniser's classes stand for; class 0 is "nothing", the last one a space. */
export const ALPHABET: readonly string[] = ['', ...general.characters, ' '];
