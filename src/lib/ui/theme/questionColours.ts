import { scaleOrdinal } from 'd3-scale';

/** Colours of questions on the strip, in the assignment's order; dark enough for white labels. */
const COLOURS = ['#6b4a96', '#3f7480', '#2f6b60', '#8a5a30', '#5f7038', '#8a4462', '#45598f', '#7a6420'];

/** One colour a question, the same everywhere for one assignment. */
export function questionColours(ids: readonly string[]): (id: string) => string {
	return scaleOrdinal<string, string>().domain(ids).range(COLOURS);
}
