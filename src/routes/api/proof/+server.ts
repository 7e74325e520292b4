import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { isSignedBy, type Signed } from '$lib/server/delivery/signer';
import { services } from '$lib/server/services/services';

const body = Joi.object<Signed>({
	statement: Joi.string().max(4000).required(),
	signature: Joi.string().max(200).required(),
	publicKey: Joi.string().max(1000).required()
});

/** Whether a proof of handing in was signed by this server: anybody who holds one may ask. */
export const POST: RequestHandler = async ({ request }) => {
	const { signer } = await services();
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem)
		error(400, 'This is not a proof that was saved here: it has a statement, a signature and a key.');
	const { statement, signature } = value as Signed;
	return json({
		genuine: isSignedBy(signer.publicKey, { statement, signature }),
		publicKey: signer.publicKey
	});
};
