declare module '*.onnx?inline' {
	/** The file as a data: address. */
	const address: string;
	export default address;
}
