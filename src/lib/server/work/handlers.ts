import type { House } from '../house';
import { checkPacket } from './jobs/checkPacket';
import { deliver } from './jobs/deliver';
import { makeFile } from './jobs/makeFile';
import { matchNames } from './jobs/matchNames';
import { preparePage } from './jobs/preparePage';
import { lookPage, readPage } from './jobs/readPage';
import { readPicture } from './jobs/readPicture';
import { takeIn } from './jobs/takeIn';
import { weighPage } from './jobs/weighPage';
import type { Handlers } from './kinds';

/** What is done for each kind of job, and what becomes of what it was for when it has failed for good. */
export function handlers(house: House): Handlers {
	return {
		'take-in': takeIn(house),
		'prepare-page': preparePage(house),
		'read-picture': readPicture(house),
		'look-page': lookPage(house),
		'read-page': readPage(house),
		'match-names': matchNames(house),
		'check-packet': checkPacket(house),
		'weigh-page': weighPage(house),
		'make-file': makeFile(house),
		'deliver-portal': deliver(house),
		'deliver-mail': deliver(house),
		'deliver-folder': deliver(house)
	};
}
