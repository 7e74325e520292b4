/** The angle of a direction in radians, -π to π, to 0.0001 (a polynomial after Abramowitz and Stegun 4.4.49). */
function angle(dy: f64, dx: f64): f64 {
	const ax = Math.abs(dx);
	const ay = Math.abs(dy);
	const q = Math.min(ax, ay) / Math.max(ax, ay);
	const q2 = q * q;
	let a = q * (0.999866 + q2 * (-0.3302995 + q2 * (0.180141 + q2 * (-0.085133 + q2 * 0.0208351))));
	if (ay > ax) a = Math.PI / 2 - a;
	if (dx < 0) a = Math.PI - a;
	return dy < 0 ? -a : a;
}

/**
 * Lets the crest of each edge vote for the lines through it whose normals lie near its gradient's direction.
 *
 * @param directions cosines and then sines of `angles` directions, in double precision
 * @param votes `angles x bins` floats, all 0 before
 */
export function vote(
	gx: usize,
	gy: usize,
	width: i32,
	height: i32,
	least: f64,
	strongest: f64,
	directions: usize,
	angles: i32,
	diagonal: f64,
	step: f64,
	bins: i32,
	votes: usize
): void {
	const sines = directions + (angles << 3);
	const perRadian = <f64>angles / (2 * Math.PI);
	const perStep = 1 / step;
	const leastSquare = least * least;
	for (let y = 2; y < height - 2; y++) {
		for (let x = 2; x < width - 2; x++) {
			const i = (y * width + x) << 2;
			const dx = <f64>load<f32>(gx + i);
			const dy = <f64>load<f32>(gy + i);
			const square = dx * dx + dy * dy;
			if (square < leastSquare) continue;
			const aside = (Math.abs(dx) > Math.abs(dy) ? 1 : width) << 2;
			const ax = <f64>load<f32>(gx + i - aside);
			const ay = <f64>load<f32>(gy + i - aside);
			if (ax * ax + ay * ay > square) continue;
			const bx = <f64>load<f32>(gx + i + aside);
			const by = <f64>load<f32>(gy + i + aside);
			if (bx * bx + by * by > square) continue;
			const weight = Math.min(Math.sqrt(square), strongest);
			const middle = <i32>Math.floor(angle(dy, dx) * perRadian + 0.5);
			for (let d = -3; d <= 3; d++) {
				let a = middle + d;
				if (a < 0) a += angles;
				else if (a >= angles) a -= angles;
				const rho =
					(<f64>x + 0.5) * load<f64>(directions + (a << 3)) + (<f64>y + 0.5) * load<f64>(sines + (a << 3));
				const bin = votes + ((a * bins + <i32>((rho + diagonal) * perStep)) << 2);
				const share = weight * (1 - 0.2 * <f64>abs(d));
				store<f32>(bin, <f32>(<f64>load<f32>(bin) + share));
			}
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
