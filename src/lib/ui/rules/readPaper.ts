/**
 * The text of a paper, read page after page by the server.
 * @param tell called with the page that is being read, from 1, and how many there are
 * @throws Error with a sentence to show
 */
export async function readPaper(file: File, tell: (page: number, pages: number) => void): Promise<string> {
	const { id, pages } = await ask<{ id: string; pages: number }>('/api/papers', {
		method: 'POST',
		body: file
	});
	const texts: string[] = [];
	for (let page = 1; page <= pages; page++) {
		tell(page, pages);
		texts.push((await ask<{ text: string }>(`/api/papers/${id}/pages/${page}`)).text);
	}
	return texts.join('\n');
}

async function ask<T>(path: string, init?: RequestInit): Promise<T> {
	const response = await fetch(path, init).catch(() => null);
	if (!response) throw new Error('The line is down. Try again.');
	const answer = (await response.json().catch(() => ({}))) as T & { message?: string };
	if (!response.ok) throw new Error(answer.message ?? 'This could not be read.');
	return answer;
}
