import type { Picture } from '../../core/raster/picture';
import type { Quadrilateral } from '../../core/sheet/geometry';
import { columnsOf, LINE_HEIGHT, lineInput } from './lineInput';
import { run } from './models';

/** Width in pixels at which the direction model sees a line. */
const WIDTH = 192;

/**
 * How likely each line stands upside down, 0 to 1.
 * @param boxes clockwise from the corner that is the top left if the line is upright
 */
export async function upsideDown(picture: Picture, boxes: readonly Quadrilateral[]): Promise<number[]> {
	if (boxes.length === 0) return [];
	const each = 3 * LINE_HEIGHT * WIDTH;
	const input = new Float32Array(boxes.length * each);
	boxes.forEach((box, i) => {
		lineInput(picture, box, Math.min(WIDTH, columnsOf(box)), WIDTH, input, i * each);
	});
	const { data } = await run('direction', input, [boxes.length, 3, LINE_HEIGHT, WIDTH]);
	return boxes.map((_, i) => data[2 * i + 1]!);
}
