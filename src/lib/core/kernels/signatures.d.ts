declare namespace __AdaptedExports {
  /** Exported memory */
  export const memory: WebAssembly.Memory;
  /**
   * index/memoryBase
   * @returns `usize`
   */
  export function memoryBase(): number;
  /**
   * flatten/sampleRow
   * @param source `usize`
   * @param stride `i32`
   * @param channels `i32`
   * @param u `f64`
   * @param v `f64`
   * @param w `f64`
   * @param stepU `f64`
   * @param stepV `f64`
   * @param stepW `f64`
   * @param count `i32`
   * @param out `usize`
   */
  export function sampleRow(source: number, stride: number, channels: number, u: number, v: number, w: number, stepU: number, stepV: number, stepW: number, count: number, out: number): void;
  /**
   * flatten/averageRows
   * @param upper `usize`
   * @param lower `usize`
   * @param width `i32`
   * @param out `usize`
   */
  export function averageRows(upper: number, lower: number, width: number, out: number): void;
  /**
   * evenLight/evenLight
   * @param source `usize`
   * @param channels `i32`
   * @param width `i32`
   * @param height `i32`
   * @param map `usize`
   * @param columns `i32`
   * @param rows `i32`
   * @param rgb `usize`
   * @param grey `usize`
   * @param scratch `usize`
   */
  export function evenLight(source: number, channels: number, width: number, height: number, map: number, columns: number, rows: number, rgb: number, grey: number, scratch: number): void;
  /**
   * threshold/cellSums
   * @param source `usize`
   * @param width `i32`
   * @param side `i32`
   * @param columns `i32`
   * @param rows `i32`
   * @param sums `usize`
   * @param squares `usize`
   * @param scratch `usize`
   */
  export function cellSums(source: number, width: number, side: number, columns: number, rows: number, sums: number, squares: number, scratch: number): void;
  /**
   * threshold/threshold
   * @param source `usize`
   * @param width `i32`
   * @param height `i32`
   * @param radius `i32`
   * @param paper `i32`
   * @param k `f64`
   * @param clearance `f64`
   * @param spread `f64`
   * @param darkest `f64`
   * @param leastStep `f64`
   * @param solid `f64`
   * @param ink `usize`
   * @param scratch `usize`
   */
  export function threshold(source: number, width: number, height: number, radius: number, paper: number, k: number, clearance: number, spread: number, darkest: number, leastStep: number, solid: number, ink: number, scratch: number): void;
  /**
   * inkRuns/inkRuns
   * @param ink `usize`
   * @param width `i32`
   * @param height `i32`
   * @param out `usize`
   * @returns `i32`
   */
  export function inkRuns(ink: number, width: number, height: number, out: number): number;
  /**
   * halve/halve
   * @param source `usize`
   * @param width `i32`
   * @param w `i32`
   * @param h `i32`
   * @param out `usize`
   */
  export function halve(source: number, width: number, w: number, h: number, out: number): void;
  /**
   * lightInBlocks/lightInBlocks
   * @param source `usize`
   * @param width `i32`
   * @param height `i32`
   * @param channels `i32`
   * @param block `i32`
   * @param step `i32`
   * @param columns `i32`
   * @param rows `i32`
   * @param wanted `usize`
   * @param dark `f64`
   * @param bright `f64`
   * @param out `usize`
   * @param histogram `usize`
   */
  export function lightInBlocks(source: number, width: number, height: number, channels: number, block: number, step: number, columns: number, rows: number, wanted: number, dark: number, bright: number, out: number, histogram: number): void;
  /**
   * boxBlur/boxBlur
   * @param source `usize`
   * @param width `i32`
   * @param height `i32`
   * @param radius `i32`
   * @param across `usize`
   * @param sums `usize`
   * @param out `usize`
   */
  export function boxBlur(source: number, width: number, height: number, radius: number, across: number, sums: number, out: number): void;
  /**
   * shrink/shrinkRow
   * @param rows `usize`
   * @param stride `i32`
   * @param down `i32`
   * @param columns `usize`
   * @param across `i32`
   * @param width `i32`
   * @param out `usize`
   */
  export function shrinkRow(rows: number, stride: number, down: number, columns: number, across: number, width: number, out: number): void;
  /**
   * sideLines/vote
   * @param gx `usize`
   * @param gy `usize`
   * @param width `i32`
   * @param height `i32`
   * @param least `f32`
   * @param strongest `f32`
   * @param directions `usize`
   * @param angles `i32`
   * @param diagonal `f32`
   * @param step `f32`
   * @param bins `i32`
   * @param votes `usize`
   */
  export function vote(gx: number, gy: number, width: number, height: number, least: number, strongest: number, directions: number, angles: number, diagonal: number, step: number, bins: number, votes: number): void;
  /**
   * sideLines/peaks
   * @param values `usize`
   * @param from `i32`
   * @param count `i32`
   * @param least `f64`
   * @param out `usize`
   * @returns `i32`
   */
  export function peaks(values: number, from: number, count: number, least: number, out: number): number;
  /**
   * extremum/extremum
   * @param source `usize`
   * @param width `i32`
   * @param height `i32`
   * @param radius `i32`
   * @param isLargest `i32`
   * @param line `usize`
   * @param across `usize`
   * @param out `usize`
   */
  export function extremum(source: number, width: number, height: number, radius: number, isLargest: number, line: number, across: number, out: number): void;
  /**
   * tiles/measureTiles
   * @param mask `usize`
   * @param width `i32`
   * @param height `i32`
   * @param coarse `usize`
   * @param coarseWidth `i32`
   * @param data `usize`
   * @param pageWidth `i32`
   * @param reach `i32`
   * @param columnOf `usize`
   * @param rowOf `usize`
   * @param tiles `usize`
   */
  export function measureTiles(mask: number, width: number, height: number, coarse: number, coarseWidth: number, data: number, pageWidth: number, reach: number, columnOf: number, rowOf: number, tiles: number): void;
  /**
   * edgeMap/edges
   * @param source `usize`
   * @param width `i32`
   * @param height `i32`
   * @param channels `i32`
   * @param radius `i32`
   * @param floor `f64`
   * @param paper `usize`
   * @param gx `usize`
   * @param gy `usize`
   * @param scratch `usize`
   */
  export function edges(source: number, width: number, height: number, channels: number, radius: number, floor: number, paper: number, gx: number, gy: number, scratch: number): void;
  /**
   * ink/dropFaint
   * @param ink `usize`
   * @param source `usize`
   * @param width `i32`
   * @param height `i32`
   * @param level `f64`
   * @param darkest `i32`
   * @param cell `i32`
   * @param columns `i32`
   * @param certain `usize`
   * @param near `usize`
   * @param scratch `usize`
   * @returns `f64`
   */
  export function dropFaint(ink: number, source: number, width: number, height: number, level: number, darkest: number, cell: number, columns: number, certain: number, near: number, scratch: number): number;
  /**
   * ink/paint
   * @param ink `usize`
   * @param count `i32`
   */
  export function paint(ink: number, count: number): void;
  /**
   * ruling/below
   * @param source `usize`
   * @param count `i32`
   * @param limit `i32`
   * @param out `usize`
   */
  export function below(source: number, count: number, limit: number, out: number): void;
  /**
   * ruling/countInk
   * @param ink `usize`
   * @param count `i32`
   * @returns `i32`
   */
  export function countInk(ink: number, count: number): number;
  /**
   * ruling/longRunsAcross
   * @param dark `usize`
   * @param width `i32`
   * @param height `i32`
   * @param least `i32`
   * @param gap `i32`
   * @param marks `usize`
   * @param scratch `usize`
   */
  export function longRunsAcross(dark: number, width: number, height: number, least: number, gap: number, marks: number, scratch: number): void;
  /**
   * ruling/longRunsDown
   * @param dark `usize`
   * @param width `i32`
   * @param height `i32`
   * @param least `i32`
   * @param gap `i32`
   * @param marks `usize`
   * @param scratch `usize`
   */
  export function longRunsDown(dark: number, width: number, height: number, least: number, gap: number, marks: number, scratch: number): void;
  /**
   * ruling/withoutRuling
   * @param data `usize`
   * @param dark `usize`
   * @param across `usize`
   * @param down `usize`
   * @param width `i32`
   * @param height `i32`
   * @param beyond `i32`
   * @param mask `usize`
   * @param sums `usize`
   */
  export function withoutRuling(data: number, dark: number, across: number, down: number, width: number, height: number, beyond: number, mask: number, sums: number): void;
}
/** Instantiates the compiled WebAssembly module with the given imports. */
export declare function instantiate(module: WebAssembly.Module, imports: {
}): Promise<typeof __AdaptedExports>;
