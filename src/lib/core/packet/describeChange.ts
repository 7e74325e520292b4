import { plural } from '../rules/finding';
import type { Mark } from '../marks/mark';
import type { Change } from './change';

const ADDED: Readonly<Record<Mark['kind'], string>> = {
	pen: 'a stroke of the pen',
	marker: 'a stroke of the marker',
	words: 'words',
	strip: 'a strip of paper'
};

/** What a change did, in a few words, for the packet's history. */
export function describeChange(change: Change): string {
	switch (change.kind) {
		case 'addPages':
			return change.pages.length === 1 ? 'a page came in' : `${change.pages.length} pages came in`;
		case 'removePages':
			return 'pages taken out';
		case 'setCorners':
			return change.corners ? 'corners set' : 'corners back to what was found';
		case 'setTurn':
			return change.turn === null ? 'turn back to what was found' : `turned to ${change.turn}°`;
		case 'setTone':
			return change.tone ? `tone: ${change.tone.name.replaceAll('-', ' ')}` : 'tone back to the usual';
		case 'setEncoding':
			return change.encoding ? `kept at ${change.encoding.dotsPerInch} dots an inch` : 'kept as prepared';
		case 'setPicture':
			return 'another picture in its place';
		case 'split':
			return 'a picture made into two pages';
		case 'join':
			return 'two halves joined to one page';
		case 'setProofread':
			return change.proofread
				? `read through: ${change.proofread.verdict === 'fine' ? 'fine' : 'needs work'}`
				: 'not read through';
		case 'setNumber':
			return change.number === 'as-read'
				? 'number back to what was read'
				: `number set to ${change.number ?? 'none'}`;
		case 'setLevel':
			return change.level ? 'lines made level' : 'lines left as photographed';
		case 'setOwn':
			return `${plural(change.pages.length, 'page')} said to be ${change.own ? 'one’s own' : 'as the name says'}`;
		case 'setMark':
			return `${ADDED[change.mark.kind]} on a page`;
		case 'removeMark':
			return 'something added to a page taken off';
		case 'setNotesApart':
			return change.apart ? 'what was added goes apart into the file' : 'what was added is part of the pages';
		case 'place':
			return change.to.on === 'strip'
				? `a page moved to place ${change.to.index + 1}`
				: `a page set aside (${change.to.reason})`;
		case 'setCut':
			return change.person === null ? 'a cut' : 'a cut, and whose packet begins there';
		case 'removeCut':
			return 'two packets joined';
		case 'putCut':
			return change.cut.packet === null ? 'a cut as it was' : 'a packet made of the stack';
		case 'setLooked':
			return 'the stack looked through';
		case 'setSeam':
			return `seam of ${change.seam.questions.join(', ') || 'what is not an answer'} at ${Math.round(change.seam.y * 100)} %`;
		case 'removeSeam':
			return 'a seam removed';
		case 'setAttempted':
			return `${change.question} ${change.attempted ? 'attempted' : 'not attempted'}`;
		case 'setFileName':
			return change.name === null ? 'the asked name' : `named ${change.name}`;
		case 'setNote':
			return change.note === null ? 'a note to the teacher removed' : 'a note to the teacher';
		case 'setDeclined':
			return change.declined ? 'a proposal put away' : 'a proposal brought back';
		case 'together':
			return change.changes.length === 1
				? describeChange(change.changes[0]!)
				: `${change.changes.length} changes at once`;
	}
}
