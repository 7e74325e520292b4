import { post } from '../packet/ask';

/** Tells the server something about an assignment's class. @throws Error with a sentence for the person */
export async function askAssignment<T>(assignment: string, path: string, body: unknown): Promise<T> {
	const response = await fetch(`/api/assignments/${assignment}/${path}`, post(body)).catch(() => {
		throw new Error('The line is down. Try again when it is back.');
	});
	const answer = (await response.json().catch(() => ({}))) as T & { message?: string };
	if (!response.ok) throw new Error(answer.message ?? 'This could not be done.');
	return answer;
}
