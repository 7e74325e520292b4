import Joi from 'joi';
import type { PacketAccess } from '../access/access';
import { isOwn } from '../access/own';
import type { Services } from '../services/services';
import { teachersOf } from '../store/courses';
import type { Database } from '../store/database';
import type { Destination, TargetName } from '../../core/delivery/targets';
import { portalAssignment } from './deliver';
import type { PortalAssignment } from './target';

/** Where a packet can be handed in; null for each way that is not set up. */
export interface Destinations {
	readonly own: PortalAssignment;
	readonly portal: {
		/** Null while the portal has not answered: then only the packet's own assignment can be chosen. */
		readonly list: readonly PortalAssignment[] | null;
		/** Whether it is being asked now: ask again in a moment. */
		readonly asking: boolean;
	} | null;
	readonly mail: {
		readonly addresses: readonly Address[];
		/** Whether any other address may be given: nobody approves any for somebody who works for oneself. */
		readonly anyone: boolean;
	} | null;
	/** `path` is told where it is on the person's own computer. */
	readonly folder: { readonly path: string | null } | null;
}

interface Address {
	readonly name: string;
	readonly address: string;
}

/** Addresses that a packet may be sent to: the course's teachers, and the student's own. */
async function addressesFor(db: Database, { assignment, owner }: PacketAccess): Promise<Address[]> {
	const teachers = await teachersOf(db, assignment.courseId);
	const people = [...teachers, ...(owner.email ? [{ ...owner, email: owner.email }] : [])];
	return people.map((p) => ({ name: `${p.given} ${p.family}`, address: p.email }));
}

export async function destinationsOf(
	db: Database,
	{ portal, mail, folder }: Services['targets'],
	access: PacketAccess
): Promise<Destinations> {
	const own = portalAssignment(access.assignment);
	const forOneself = isOwn();
	return {
		own,
		portal: portal && portal.look(own),
		mail: mail && { addresses: await addressesFor(db, access), anyone: forOneself },
		folder: folder && { path: forOneself ? folder.root : null }
	};
}

type Found =
	| (Destination & { readonly isOther: boolean })
	| { readonly status: 404 | 422 | 503; readonly problem: string };

/** What was asked for, looked up; nothing that a browser says of a destination is taken for its name. */
export async function destinationFor(
	db: Database,
	targets: Services['targets'],
	access: PacketAccess,
	{ target, to }: { readonly target: TargetName; readonly to: string }
): Promise<Found> {
	const { assignment } = access;
	const own = { title: assignment.ruleSheet.title, course: assignment.courseCode };
	if (!targets[target]) return { status: 422, problem: 'This way of handing in is not set up here.' };
	switch (target) {
		case 'folder':
			return { ...own, to: isOwn() ? targets.folder!.root : '', isOther: false };
		case 'mail':
			return addressFor();
		case 'portal':
			return assignmentFor(targets.portal!);
	}

	async function addressFor(): Promise<Found> {
		const addresses = await addressesFor(db, access);
		const asked = to.trim();
		const found =
			addresses.find((a) => a.address.toLowerCase() === asked.toLowerCase()) ??
			(isOwn() && isAddress(asked) ? { name: asked, address: asked } : null);
		if (!found && isOwn()) return { status: 422, problem: `“${asked}” is not a mail address.` };
		return found
			? { to: found.address, title: found.name, course: assignment.courseCode, isOther: false }
			: { status: 422, problem: 'This address is not one that the course approves.' };
	}

	async function assignmentFor(portal: NonNullable<Services['targets']['portal']>): Promise<Found> {
		if (to === '' || to === assignment.id) return { ...own, to: assignment.id, isOther: false };
		const all = await portal.assignments().catch(() => null);
		if (!all) {
			return {
				status: 503,
				problem: 'The grading portal does not answer, so only the packet’s own assignment can be chosen now.'
			};
		}
		const other = all.find((a) => a.id === to);
		return other
			? { to, title: other.title, course: other.course, isOther: true }
			: { status: 404, problem: 'The grading portal has no such assignment.' };
	}
}

function isAddress(text: string): boolean {
	return !Joi.string().email({ tlds: false }).validate(text).error;
}
