import Joi from 'joi';

export interface PersonFields {
	readonly given: string;
	readonly family: string;
	readonly login: string;
	readonly email: string | null;
}

const LOGIN = /^[\p{L}\p{N}._@+-]{2,100}$/u;

/** A person out of a form, with what is wrong with it as a sentence. */
export function personFields(form: FormData): { fields: PersonFields; problem: string | null } {
	const text = (name: string) =>
		String(form.get(name) ?? '')
			.normalize('NFC')
			.trim()
			.replace(/\s+/g, ' ')
			.slice(0, 100);
	const email = text('email') || null;
	const fields = {
		given: text('given'),
		family: text('family'),
		login: text('login').toLowerCase(),
		email
	};
	return { fields, problem: problemOf(fields) };
}

function problemOf({ given, family, login, email }: PersonFields): string | null {
	if (!given && !family) return 'Give at least one name.';
	if (!LOGIN.test(login)) {
		return 'A sign-in name has 2 to 100 letters, digits and the signs . _ - + @, without spaces.';
	}
	if (email && Joi.string().email({ tlds: false }).validate(email).error) {
		return `“${email}” is not a mail address.`;
	}
	return null;
}
