import { invite } from '../../access/invitations';
import type { Services } from '../../services/services';
import { noteDeed } from '../../store/deeds';
import { personById } from '../../store/people';
import { schoolOf } from '../../store/school';
import type { Handler } from '../kinds';

/** Writes a person a letter with a link that works once. The code is made when it is sent, and stands in no job. */
export const sendInvitation = (services: Services): Handler<'send-invitation'> => ({
	async run({ personId, madeBy, origin }) {
		const { db, targets } = services;
		const person = await personById(db, personId);
		if (!person?.email) return;
		if (!targets.mail) throw new Error('No mail server is set.');
		const { code, expires } = await invite(db, personId, 'mail', madeBy);
		const school = (await schoolOf(db))?.name ?? 'Membrana';
		const until = expires.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
		await targets.mail.write(
			person.email,
			`${school}: your way into Membrana`,
			`Hello ${person.given || person.family},

this address lets you choose a password. It works once, until ${until}:

${origin}/come-in/${code}

Your sign-in name is ${person.login}.
If you did not expect this letter, nothing happens unless you use it.

${school}
`
		);
	},
	async failed({ personId }, problem) {
		const person = await personById(services.db, personId);
		if (person) await noteDeed(services.db, person, `Was sent no letter to come in with: ${problem}`);
	}
});
