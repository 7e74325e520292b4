/** Asks the server about a packet. @throws Error with a sentence for the person */
export async function askResponse(packet: string, path: string, init?: RequestInit): Promise<Response> {
	const response = await fetch(`/api/packets/${packet}/${path}`, init).catch(() => {
		throw new Error('The line is down. Nothing is lost; try again when it is back.');
	});
	if (response.ok) return response;
	const { message } = (await response.json().catch(() => ({}))) as { message?: string };
	throw new Error(message ?? 'This could not be done.');
}

export async function ask<T>(packet: string, path: string, init?: RequestInit): Promise<T> {
	return (await (await askResponse(packet, path, init)).json()) as T;
}

export function post(body: unknown): RequestInit {
	return {
		method: 'POST',
		headers: { 'content-type': 'application/json' },
		body: JSON.stringify(body)
	};
}
