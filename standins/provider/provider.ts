import { createHash, randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { exportJWK, generateKeyPair, SignJWT } from 'jose';

// A stand-in for a school's identity provider (OpenID Connect Core 1.0, authorization code with PKCE), on loopback. Whoever
// opens it chooses who to be. It can be told to lie or to be down.

export interface ProviderPerson {
	/** What it calls the person: the roster's identifier. */
	readonly sub: string;
	readonly name: string;
}

export interface RunningProvider {
	readonly issuer: string;
	/** What it does wrong from now on. */
	misbehave(how: 'not' | 'nonce' | 'down' | 'refuse'): void;
	close(): Promise<void>;
}

/** Starts the provider. A port of 0 takes a free one. */
export async function startProvider(options: {
	readonly port: number;
	readonly client: string;
	readonly people: readonly ProviderPerson[];
}): Promise<RunningProvider> {
	const { privateKey, publicKey } = await generateKeyPair('RS256');
	const jwk = { ...(await exportJWK(publicKey)), kid: 'stand-in', alg: 'RS256', use: 'sig' };
	const codes = new Map<string, { sub: string; nonce: string; challenge: string; back: string }>();
	let how: 'not' | 'nonce' | 'down' | 'refuse' = 'not';
	const server = createServer((request, response) => {
		answer(request, response).catch((error: unknown) => {
			console.error('Stand-in provider:', error);
			response.writeHead(500).end();
		});
	});
	await new Promise<void>((done) => server.listen(options.port, '127.0.0.1', done));
	const issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;

	async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
		const url = new URL(request.url ?? '/', issuer);
		if (how === 'down') return void response.writeHead(503).end();
		if (url.pathname === '/.well-known/openid-configuration') return json(response, metadata(issuer));
		if (url.pathname === '/jwks') return json(response, { keys: [jwk] });
		if (url.pathname === '/authorize') return authorize(url, response);
		if (url.pathname === '/token') return token(await bodyOf(request), response);
		response.writeHead(404).end();
	}

	function authorize(url: URL, response: ServerResponse): void {
		const asked = Object.fromEntries(url.searchParams) as Record<string, string>;
		const back = new URL(asked.redirect_uri!);
		back.searchParams.set('state', asked.state ?? '');
		if (how === 'refuse') back.searchParams.set('error', 'access_denied');
		else if (asked.as === undefined) return choose(url, response);
		else {
			const code = randomUUID();
			const { as: sub, nonce = '', code_challenge: challenge = '' } = asked;
			codes.set(code, { sub, nonce, challenge, back: asked.redirect_uri! });
			back.searchParams.set('code', code);
		}
		response.writeHead(303, { location: back.href }).end();
	}

	function choose(url: URL, response: ServerResponse): void {
		const links = options.people.map(({ sub, name }) => {
			const to = new URL(url);
			to.searchParams.set('as', sub);
			return `<li><a href="${escape(to.pathname + to.search)}">${escape(name)} (${escape(sub)})</a></li>`;
		});
		response
			.writeHead(200, { 'content-type': 'text/html; charset=utf-8' })
			.end(
				`<!doctype html><title>Stand-in identity provider</title><h1>Who are you?</h1><ul>${links.join('')}</ul>`
			);
	}

	async function token(body: URLSearchParams, response: ServerResponse): Promise<void> {
		const kept = codes.get(body.get('code') ?? '');
		codes.delete(body.get('code') ?? '');
		const challenge = createHash('sha256')
			.update(body.get('code_verifier') ?? '')
			.digest('base64url');
		if (!kept || kept.challenge !== challenge || kept.back !== body.get('redirect_uri')) {
			response.writeHead(400, { 'content-type': 'application/json' }).end('{"error":"invalid_grant"}');
			return;
		}
		const idToken = await new SignJWT({ nonce: how === 'nonce' ? 'another' : kept.nonce })
			.setProtectedHeader({ alg: 'RS256', kid: jwk.kid })
			.setIssuer(issuer)
			.setAudience(options.client)
			.setSubject(kept.sub)
			.setIssuedAt()
			.setExpirationTime('5m')
			.sign(privateKey);
		json(response, { access_token: randomUUID(), token_type: 'Bearer', expires_in: 300, id_token: idToken });
	}

	return {
		issuer,
		misbehave: (next) => (how = next),
		close: () => new Promise((done) => server.close(() => done()))
	};
}

function metadata(issuer: string) {
	return {
		issuer,
		authorization_endpoint: `${issuer}/authorize`,
		token_endpoint: `${issuer}/token`,
		jwks_uri: `${issuer}/jwks`,
		response_types_supported: ['code'],
		subject_types_supported: ['public'],
		id_token_signing_alg_values_supported: ['RS256'],
		code_challenge_methods_supported: ['S256'],
		token_endpoint_auth_methods_supported: ['client_secret_post', 'client_secret_basic', 'none']
	};
}

function json(response: ServerResponse, value: unknown): void {
	response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(value));
}

async function bodyOf(request: IncomingMessage): Promise<URLSearchParams> {
	const chunks: Buffer[] = [];
	for await (const chunk of request) chunks.push(chunk as Buffer);
	return new URLSearchParams(Buffer.concat(chunks).toString('utf8'));
}

const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
