declare module 'heic-decode' {
	interface Image {
		readonly width: number;
		readonly height: number;
		decode(): Promise<{ width: number; height: number; data: Uint8ClampedArray }>;
	}
	const decode: {
		all(input: { buffer: Uint8Array }): Promise<Image[] & { dispose(): void }>;
	};
	export default decode;
}
