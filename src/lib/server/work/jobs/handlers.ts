import type { Services } from '../../services/services';
import { checkPacket } from './checkPacket';
import { cutStack } from './cutStack';
import { deliver } from './deliver';
import { makeBag } from './makeBag';
import { makeBundle } from './makeBundle';
import { makeFile } from './makeFile';
import { matchNames } from './matchNames';
import { preparePage } from './preparePage';
import { lookPage, readPage } from './readPage';
import { readPicture } from './readPicture';
import { sendInvitation } from './sendInvitation';
import { sendLetter } from './sendLetter';
import { takeIn } from './takeIn';
import { weighPage } from './weighPage';
import type { Handlers } from '../kinds';

/** What is done for each kind of job, and what becomes of what it was for when it has failed for good. */
export function handlers(services: Services): Handlers {
	return {
		'take-in': takeIn(services),
		'prepare-page': preparePage(services),
		'read-picture': readPicture(services),
		'look-page': lookPage(services),
		'read-page': readPage(services),
		'match-names': matchNames(services),
		'check-packet': checkPacket(services),
		'cut-stack': cutStack(services),
		'weigh-page': weighPage(services),
		'make-file': makeFile(services),
		'make-bundle': makeBundle(services),
		'make-bag': makeBag(services),
		'deliver-portal': deliver(services),
		'deliver-mail': deliver(services),
		'deliver-folder': deliver(services),
		'send-invitation': sendInvitation(services),
		'send-letter': sendLetter(services)
	};
}
