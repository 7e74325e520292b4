import type { PhoneView } from '$lib/server/view/phoneView';
import { inTurn } from '../packet/inTurn';
import { UploadList, type UploadLine } from '../packet/uploads.svelte';

/** A packet as a phone with a link sees it: where its pictures go, and what became of them. */
export class PhoneStore {
	view = $state.raw<PhoneView>()!;
	online = $state(true);
	/** The link was ended, or its time is over. */
	ended = $state(false);
	/** The server's clock, moved on here. */
	now = $state(0);
	readonly uploads: UploadList;

	readonly #token: string;
	#events: EventSource | null = null;

	constructor(view: PhoneView, token: string) {
		this.view = view;
		this.now = view.now;
		this.#token = token;
		this.uploads = new UploadList(view.packetId, () => void this.#fetch(), { 'x-phone-link': token });
	}

	/** Begins to send and to listen; returns how to stop. */
	listen(): () => void {
		const offset = this.view.now - Date.now();
		const stopUploads = this.uploads.begin();
		const clock = setInterval(() => {
			this.now = Date.now() + offset;
			if (this.now > Date.parse(this.view.expiresAt)) void this.#fetch();
		}, 5000);
		const events = (this.#events = new EventSource(`/api/phone/${this.#token}/events`));
		events.addEventListener('changed', () => void this.#fetch());
		events.addEventListener('open', () => {
			this.online = true;
			void this.#fetch();
		});
		events.addEventListener('error', () => {
			this.online = false;
			void this.#fetch();
		});
		return () => {
			clearInterval(clock);
			events.close();
			stopUploads();
		};
	}

	/** What is to be said of a picture. */
	stateOf(line: UploadLine): string {
		const there = this.view.brought.find((b) => b.key === line.key);
		if (there?.problem) return there.problem;
		if (line.state === 'safe' || there) return 'arrived';
		if (line.state === 'failed') return line.problem ?? 'not sent';
		if (line.state === 'sending') return `${Math.floor((100 * line.sent) / Math.max(line.bytes, 1))} % sent`;
		return 'only on this phone';
	}

	readonly #fetch = inTurn(async () => {
		const response = await fetch(`/api/phone/${this.#token}`).catch(() => null);
		if (!response) {
			this.online = false;
			return;
		}
		this.online = true;
		if (response.ok) this.view = (await response.json()) as PhoneView;
		else if (response.status === 404) {
			this.ended = true;
			this.#events?.close();
		}
	});
}
