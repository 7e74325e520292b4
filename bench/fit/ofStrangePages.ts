/** What tells that a page is no answer, or none that its reader can read: fitted by itself, by `bench fit strange`. */
const STRANGE: readonly string[] = [
	'page hardly read',
	'page without lines',
	'log chance of a high number among others'
];

/** Of a list of features, the indexes of those … */
export const ofStrangePages = (features: readonly string[]): number[] =>
	[...features.keys()].filter((k) => STRANGE.includes(features[k]!));

/** … and of all others. */
export const ofAnswers = (features: readonly string[]): number[] =>
	[...features.keys()].filter((k) => !STRANGE.includes(features[k]!));
