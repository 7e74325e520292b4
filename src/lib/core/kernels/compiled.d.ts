/** AssemblyScript that was compiled by the build. */
declare module '*?kernels' {
	const bytes: Uint8Array<ArrayBuffer>;
	export default bytes;
}
