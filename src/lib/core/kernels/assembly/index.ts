// AssemblyScript, not TypeScript: compiled to WebAssembly with SIMD when the project is built. Each function does what
// its plain namesake in the core does, to the bit; kernels.test.ts holds them against each other.
export { sampleRow, averageRows } from './flatten';
export { evenLight } from './evenLight';
export { cellSums, threshold } from './threshold';
export { inkRuns } from './inkRuns';
export { halve } from './halve';
export { lightInBlocks } from './lightInBlocks';
export { boxBlur } from './boxBlur';
export { shrinkRow } from './shrink';
export { vote, peaks } from './sideLines';
export { extremum } from './extremum';
export { measureTiles } from './tiles';
export { edges } from './edgeMap';
export { dropFaint, paint } from './ink';
export { below, countInk, longRunsAcross, longRunsDown, withoutRuling } from './ruling';

/** Where the memory that callers may use begins. */
export function memoryBase(): usize {
	return __heap_base;
}
