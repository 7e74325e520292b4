import type { Picture } from '../src/lib/core/raster/picture';
import type { Quadrilateral } from '../src/lib/core/sheet/geometry';

/** The library is called by name; its own types describe the browser's build. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Loose = any;

/** The same steps with a general-purpose library on WebAssembly, each as it is usually done with it. */
export interface OpenCvSteps {
	/** Edges on a picture of 480 pixels, and the largest contour with four corners. */
	outline(picture: Picture): void;
	/** A perspective warp, bilinear. @returns the page in grey */
	flatten(picture: Picture, corners: Quadrilateral, width: number, height: number): Uint8Array;
	/** A local mean threshold. */
	threshold(grey: Uint8Array, width: number, height: number): Uint8Array;
}

export async function openCvSteps(): Promise<OpenCvSteps> {
	const loaded: Loose = await import('@techstark/opencv-js');
	const cv: Loose = loaded.default ?? loaded;
	if (!cv.Mat) await new Promise<void>((done) => (cv.onRuntimeInitialized = () => done()));
	/** Gives back what was made on the way. */
	const using = <T>(work: (make: (type: string, ...rest: unknown[]) => Loose) => T): T => {
		const made: Loose[] = [];
		try {
			return work((type, ...rest) => {
				const object = new cv[type](...rest);
				made.push(object);
				return object;
			});
		} finally {
			for (const object of made) object.delete();
		}
	};
	const matOf = (make: Loose, data: ArrayLike<number>, rows: number, columns: number, type: number) => {
		const mat = make('Mat', rows, columns, type);
		mat.data.set(data);
		return mat;
	};
	return {
		outline: (picture) =>
			using((make) => {
				const source = matOf(make, picture.data, picture.height, picture.width, cv.CV_8UC3);
				const small = make('Mat');
				const scale = 480 / Math.max(picture.width, picture.height);
				const size = new cv.Size(Math.round(picture.width * scale), Math.round(picture.height * scale));
				cv.resize(source, small, size, 0, 0, cv.INTER_AREA);
				const grey = make('Mat');
				cv.cvtColor(small, grey, cv.COLOR_RGB2GRAY);
				cv.GaussianBlur(grey, grey, new cv.Size(5, 5), 0);
				const edges = make('Mat');
				cv.Canny(grey, edges, 50, 150);
				cv.dilate(edges, edges, cv.Mat.ones(3, 3, cv.CV_8U));
				const contours = make('MatVector');
				cv.findContours(edges, contours, make('Mat'), cv.RETR_LIST, cv.CHAIN_APPROX_SIMPLE);
				let largest = 0;
				for (let i = 0; i < contours.size(); i++) {
					const polygon = make('Mat');
					cv.approxPolyDP(contours.get(i), polygon, 0.02 * cv.arcLength(contours.get(i), true), true);
					if (polygon.rows === 4) largest = Math.max(largest, cv.contourArea(polygon));
				}
			}),
		flatten: (picture, corners, width, height) =>
			using((make) => {
				const source = matOf(make, picture.data, picture.height, picture.width, cv.CV_8UC3);
				const from = cv.matFromArray(4, 1, cv.CV_32FC2, corners.flat());
				const to = cv.matFromArray(4, 1, cv.CV_32FC2, [0, 0, width, 0, width, height, 0, height]);
				const mapping = cv.getPerspectiveTransform(from, to);
				const page = make('Mat');
				cv.warpPerspective(source, page, mapping, new cv.Size(width, height), cv.INTER_LINEAR);
				const grey = make('Mat');
				cv.cvtColor(page, grey, cv.COLOR_RGB2GRAY);
				for (const mat of [from, to, mapping]) mat.delete();
				return grey.data.slice();
			}),
		threshold: (grey, width, height) =>
			using((make) => {
				const source = matOf(make, grey, height, width, cv.CV_8UC1);
				const ink = make('Mat');
				cv.adaptiveThreshold(source, ink, 255, cv.ADAPTIVE_THRESH_MEAN_C, cv.THRESH_BINARY, 41, 12);
				return ink.data.slice();
			})
	};
}
