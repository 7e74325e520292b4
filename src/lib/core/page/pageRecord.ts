import type { NameReading } from '../reading/personName';
import type { PageReading } from '../reading/pageReading';
import type { PageWeight } from '../size/pageWeights';
import type { PageFacts, PictureFacts } from './preparePage';

/**
 * What is known of one page beside what a person set: everywhere the same, from the store to the screen, in the browser
 * and on the command line. What is not known yet is null.
 */
export interface PageRecord {
	/** Of the prepared page: a hash of everything that goes into it. */
	readonly key: string;
	/** What was found of the picture that it is made from. */
	readonly picture: PictureFacts | null;
	/** Why the picture cannot be used. */
	readonly problem: string | null;
	readonly prepared: PageFacts | null;
	/** Size of its image in the file. */
	readonly bytes: number | null;
	/** Ways to keep it in the file, where they were weighed. */
	readonly weights: readonly PageWeight[] | null;
	readonly reading: PageReading | null;
	/** The name at the top. */
	readonly name: NameReading | null;
	/**
	 * The name at the top, when it is another person's than the packet's: for a teacher as the roster has it, for a
	 * student as it was read, since whom else a name belongs to is not theirs to learn.
	 */
	readonly otherPerson: string | null;
	/** Name of the file that it came in. */
	readonly sourceName: string;
	/** When the picture was taken, milliseconds since 1970. */
	readonly takenAt: number | null;
}
