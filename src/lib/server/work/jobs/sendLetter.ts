import type { Services } from '../../services/services';
import { noteDeed } from '../../store/deeds';
import { personById } from '../../store/people';
import type { Handler } from '../kinds';

/** Sends a letter to a person of the school, at the address that they have when it goes out. */
export const sendLetter = (services: Services): Handler<'send-letter'> => ({
	async run({ personId, subject, text }) {
		const { db, targets } = services;
		const person = await personById(db, personId);
		if (!person?.email) return;
		if (!targets.mail) throw new Error('No mail server is set.');
		await targets.mail.write(person.email, subject, text);
	},
	async failed({ personId, subject }, problem) {
		const person = await personById(services.db, personId);
		if (person) await noteDeed(services.db, person, `Was sent no letter “${subject}”: ${problem}`);
	}
});
