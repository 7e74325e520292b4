import * as oidc from 'openid-client';
import { isLoopbackName } from '../loopback';
import type { Settings } from '../settings/settings';

/** What is kept in the browser between the question and the answer; nobody else can read or make it. */
export interface ProviderQuestion {
	readonly state: string;
	readonly nonce: string;
	readonly verifier: string;
	/** Where the person wanted to go. */
	readonly next: string;
}

/** Why nobody is let in, as a sentence. */
export class ProviderError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'ProviderError';
	}
}

/** Seconds that a provider may take. */
const TIMEOUT = 10;
const AWAY =
	'The school’s identity provider does not answer. Try again in a moment; whoever has a password here can sign in with that.';

type ProviderSettings = Pick<
	Settings,
	'providerIssuer' | 'providerClient' | 'providerSecret' | 'providerClaim'
>;

/** Whether signing in through a provider is set up. */
export function hasProvider({ providerIssuer, providerClient }: ProviderSettings): boolean {
	return !!providerIssuer && !!providerClient;
}

/**
 * Asks a provider what it offers.
 * @throws ProviderError
 */
export async function discover(
	settings: ProviderSettings
): Promise<{ issuer: string; config: oidc.Configuration }> {
	if (!hasProvider(settings)) throw new ProviderError('No identity provider is set.');
	const address = new URL(settings.providerIssuer!);
	// Only a provider on this very machine may go without TLS.
	const insecure = address.protocol === 'http:' && isLoopbackName(address.hostname);
	try {
		const config = await oidc.discovery(
			address,
			settings.providerClient!,
			settings.providerSecret ?? undefined,
			settings.providerSecret ? undefined : oidc.None(),
			{ timeout: TIMEOUT, execute: insecure ? [oidc.allowInsecureRequests] : [] }
		);
		return { issuer: config.serverMetadata().issuer, config };
	} catch (error) {
		console.error(`Identity provider: ${(error as Error).message}`);
		throw new ProviderError(AWAY);
	}
}

/**
 * The address at which the provider asks who it is.
 * @param back where it sends the answer to
 * @throws ProviderError
 */
export async function askProvider(
	settings: ProviderSettings,
	back: string,
	next: string
): Promise<{ readonly address: URL; readonly question: ProviderQuestion }> {
	const { config } = await discover(settings);
	const question = {
		state: oidc.randomState(),
		nonce: oidc.randomNonce(),
		verifier: oidc.randomPKCECodeVerifier(),
		next
	};
	const address = oidc.buildAuthorizationUrl(config, {
		redirect_uri: back,
		scope: 'openid',
		state: question.state,
		nonce: question.nonce,
		code_challenge: await oidc.calculatePKCECodeChallenge(question.verifier),
		code_challenge_method: 'S256'
	});
	return { address, question };
}

/**
 * The roster's identifier of whom the provider says it is.
 * @param answered the address to which the provider sent the browser back
 * @throws ProviderError
 */
export async function identifierFrom(
	settings: ProviderSettings,
	answered: URL,
	question: ProviderQuestion
): Promise<string> {
	const { config } = await discover(settings);
	let claims: Readonly<Record<string, unknown>> | undefined;
	try {
		const tokens = await oidc.authorizationCodeGrant(config, answered, {
			pkceCodeVerifier: question.verifier,
			expectedState: question.state,
			expectedNonce: question.nonce,
			idTokenExpected: true
		});
		claims = tokens.claims();
	} catch (error) {
		console.error(`Identity provider: ${(error as Error).message}`);
		if (error instanceof oidc.AuthorizationResponseError) {
			throw new ProviderError(
				'The school’s identity provider let nobody in. Begin again, or ask whoever runs it.'
			);
		}
		if (error instanceof TypeError || (error as Error).name === 'TimeoutError') throw new ProviderError(AWAY);
		throw new ProviderError(
			'The answer of the school’s identity provider does not fit the question that was asked. Nobody was let in; begin again.'
		);
	}
	const claim = settings.providerClaim || 'sub';
	const value = claims?.[claim];
	if (typeof value === 'string' && value !== '') return value;
	if (typeof value === 'number') return String(value);
	throw new ProviderError(
		`The school’s identity provider says nothing about “${claim}”, by which people are known here. Tell whoever runs this Membrana.`
	);
}
