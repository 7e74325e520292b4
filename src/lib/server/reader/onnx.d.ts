declare module '*.onnx?inline' {
	/** The file as a data: address. */
	const address: string;
	export default address;
}

declare module 'virtual:general-reader' {
	/** Files of the models, in the build's folder unless they are named in full; see modelsPlugin.ts. */
	export const detector: string;
	export const recogniser: string;
	/** What the recogniser's classes stand for, from class 1 on. */
	export const characters: readonly string[];
}
