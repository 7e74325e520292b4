import type { Point, Quadrilateral } from '$lib/core/sheet/geometry';

/** The open bracket that marks corner `i` of an outline: an SVG path with arms of `reach` along both sides. */
export function bracket(corners: Quadrilateral, i: number, reach: number): string {
	const corner = corners[i]!;
	const arm = (towards: Point): string => {
		const length = Math.hypot(towards[0] - corner[0], towards[1] - corner[1]) || 1;
		const share = Math.min(reach, length / 3) / length;
		return `${corner[0] + (towards[0] - corner[0]) * share} ${corner[1] + (towards[1] - corner[1]) * share}`;
	};
	return `M${arm(corners[(i + 3) % 4]!)} L${corner[0]} ${corner[1]} L${arm(corners[(i + 1) % 4]!)}`;
}
