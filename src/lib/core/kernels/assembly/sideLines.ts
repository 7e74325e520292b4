/** Directions on both sides of an edge's own that it votes for. */
const ASIDE = 3;

/** The angle of a direction in radians, -π to π, to 0.0001 (a polynomial after Abramowitz and Stegun 4.4.49). */
function angle(dy: f32, dx: f32): f32 {
	const ax = Mathf.abs(dx);
	const ay = Mathf.abs(dy);
	const q = Mathf.min(ax, ay) / Mathf.max(ax, ay);
	const q2 = q * q;
	let a: f32 = q * (0.999866 + q2 * (-0.3302995 + q2 * (0.180141 + q2 * (-0.085133 + q2 * 0.0208351))));
	if (ay > ax) a = Mathf.PI / 2 - a;
	if (dx < 0) a = Mathf.PI - a;
	return dy < 0 ? -a : a;
}

/** The bins of four directions for a pixel. */
function binsAt(x: v128, y: v128, cosines: usize, sines: usize, diagonal: v128, perStep: v128): v128 {
	const rho = f32x4.add(f32x4.mul(x, v128.load(cosines)), f32x4.mul(y, v128.load(sines)));
	return i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.add(rho, diagonal), perStep));
}

function add(row: usize, bin: i32, share: f32): void {
	const at = row + (bin << 2);
	store<f32>(at, load<f32>(at) + share);
}

/**
 * Lets the crest of each edge vote for the lines through it whose normals lie near its gradient's direction.
 *
 * @param directions cosines and then sines of `angles` directions and of the next 8, from ASIDE before the first on
 * @param votes `angles x bins` floats, all 0 before
 */
export function vote(
	gx: usize,
	gy: usize,
	width: i32,
	height: i32,
	least: f32,
	strongest: f32,
	directions: usize,
	angles: i32,
	diagonal: f32,
	step: f32,
	bins: i32,
	votes: usize
): void {
	const sines = (angles + 8) << 2;
	const perRadian = <f32>angles / (2 * Mathf.PI);
	const perStep = f32x4.splat(1 / step);
	const middleOf = f32x4.splat(diagonal);
	const leastSquare = least * least;
	const row = (<usize>bins) << 2;
	const end = votes + angles * row;
	for (let y = 2; y < height - 2; y++) {
		const down = f32x4.splat(<f32>y + 0.5);
		for (let x = 2; x < width - 2; x++) {
			const i = (y * width + x) << 2;
			const dx = load<f32>(gx + i);
			const dy = load<f32>(gy + i);
			const square = dx * dx + dy * dy;
			if (square < leastSquare) continue;
			const aside = (Mathf.abs(dx) > Mathf.abs(dy) ? 1 : width) << 2;
			const ax = load<f32>(gx + i - aside);
			const ay = load<f32>(gy + i - aside);
			if (ax * ax + ay * ay > square) continue;
			const bx = load<f32>(gx + i + aside);
			const by = load<f32>(gy + i + aside);
			if (bx * bx + by * by > square) continue;
			const weight = Mathf.min(Mathf.sqrt(square), strongest);
			let first = <i32>Mathf.floor(angle(dy, dx) * perRadian + 0.5);
			if (first < 0) first += angles;
			const at = directions + (first << 2);
			const across = f32x4.splat(<f32>x + 0.5);
			const one = binsAt(across, down, at, at + sines, middleOf, perStep);
			const two = binsAt(across, down, at + 16, at + sines + 16, middleOf, perStep);
			let line = votes + ((first < ASIDE ? first - ASIDE + angles : first - ASIDE) as usize) * row;
			add(line, i32x4.extract_lane(one, 0), weight * 0.4);
			if ((line += row) === end) line = votes;
			add(line, i32x4.extract_lane(one, 1), weight * 0.6);
			if ((line += row) === end) line = votes;
			add(line, i32x4.extract_lane(one, 2), weight * 0.8);
			if ((line += row) === end) line = votes;
			add(line, i32x4.extract_lane(one, 3), weight);
			if ((line += row) === end) line = votes;
			add(line, i32x4.extract_lane(two, 0), weight * 0.8);
			if ((line += row) === end) line = votes;
			add(line, i32x4.extract_lane(two, 1), weight * 0.6);
			if ((line += row) === end) line = votes;
			add(line, i32x4.extract_lane(two, 2), weight * 0.4);
		}
	}
}

/** Writes where values are at least `least` and no smaller than both neighbours. @returns how many there are */
export function peaks(values: usize, from: i32, count: i32, least: f64, out: usize): i32 {
	const first = out;
	const limit = <f32>least;
	for (let i = from; i < from + count; i++) {
		const at = values + (i << 2);
		const v = load<f32>(at);
		if (v < limit || v < load<f32>(at - 4) || v < load<f32>(at + 4)) continue;
		store<i32>(out, i);
		out += 4;
	}
	return <i32>((out - first) >> 2);
}
