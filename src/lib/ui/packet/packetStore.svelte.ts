import { Pace } from './pace';
import type { ProposedSeam } from '$lib/core/mapping/proposeSeams';
import { orderKey, proposedMoves, type ProposedMove } from '$lib/core/order/acceptOrder';
import type { OrderProposal } from '$lib/core/order/proposeOrder';
import { apply, type Change } from '$lib/core/packet/change';
import type { Packet } from '$lib/core/packet/packet';
import { checkTime, worstFirst } from '$lib/core/check/check';
import { judge, type Judgement } from '$lib/core/check/judgement';
import { Judging } from '$lib/workers/judging';
import type { Finding } from '$lib/core/rules/finding';
import { withMoreTime } from '$lib/core/rules/moreTime';
import { usualTone } from '$lib/core/tone/usualTone';
import type { PacketNews, PacketView } from '$lib/server/view/packetView';
import { withNews } from './withNews';
import { newKey, unsentEdits, type UnsentEdit } from './unsent';

/** Wait before asking again after the line broke, in milliseconds. */
const RETRY = 1500;

/** From so many pages on a packet is judged beside the page, and what is shown of it may be a moment old. */
const LARGE = 30;
const NOTHING_YET: Judgement = { findings: [], order: null, seams: [] };

/**
 * A packet that is open in this browser. Edits are applied here at once and sent one after another;
 * where the packet was changed elsewhere in the meantime, they are made again on the new state.
 */
export class PacketStore {
	view = $state.raw<PacketView>()!;
	/** The packet with the edits that are still on their way. */
	packet = $state.raw<Packet>()!;
	/** When the view came, by this browser's clock. */
	viewTakenAt = $state.raw(Date.now());
	/** The page being worked on. */
	current = $state<string | null>(null);
	/** Pages marked to be treated alike. */
	marked = $state.raw<readonly string[]>([]);
	online = $state(true);
	/** Something to tell the person, which they can put away. */
	notice = $state<string | null>(null);
	/** What was just done and cannot be seen otherwise. */
	done = $state<string | null>(null);
	waiting = $state(0);
	/** The server's clock, moved on here. */
	now = $state(0);

	readonly sheet = $derived(withMoreTime(this.view.assignment.ruleSheet, this.view.moreTime));
	/** The return that waits for an answer. */
	readonly returned = $derived(this.view.returns.find((r) => r.stands) ?? null);
	readonly usualTone = $derived(usualTone(this.sheet));
	/** What a large packet was judged last, beside the page; before that, what the server keeps of it. */
	#judged = $state.raw<Judgement>(NOTHING_YET);
	readonly #input = $derived.by(() => ({
		sheet: this.sheet,
		packet: this.packet,
		records: this.view.pages,
		person: this.view.owner,
		reads: this.reads
	}));
	readonly #judgement = $derived(this.packet.strip.length > LARGE ? this.#judged : judge(this.#input));
	readonly findings: Finding[] = $derived(
		worstFirst([...this.#judgement.findings, ...checkTime({ sheet: this.sheet, now: this.now })])
	);
	/** Nothing is known yet of what the rules say. */
	readonly unjudged = $derived(this.packet.strip.length > LARGE && this.#judged === NOTHING_YET);
	/** Pages on the strip that have not been read yet. */
	readonly unread = $derived.by(() => {
		if (!this.reads) return 0;
		const isUnread = (id: string) => !this.view.pages[id]?.reading && !this.view.pages[id]?.problem;
		return this.packet.strip.filter(isUnread).length;
	});
	/** Pages whose text is not known yet, or only the beginnings of its lines. */
	readonly textUnread = $derived(
		this.packet.strip.filter((id) => {
			const { reading, problem } = this.view.pages[id] ?? {};
			return this.reads && !problem && (!reading || reading.startsOnly);
		}).length
	);
	/** "3 of 7": how far reading has come. */
	readonly readingAt = $derived(
		`${this.packet.strip.length - this.unread + 1} of ${this.packet.strip.length}`
	);
	/** The order that Membrana reads off the pages; null until all of them are read. */
	readonly order: OrderProposal | null = $derived(
		this.#judgement.order?.strip.every((s) => this.packet.pages[s.page]) ? this.#judgement.order : null
	);
	/** What the proposed order would move, unless it has been put away. */
	readonly moves: readonly ProposedMove[] = $derived(
		this.order && !this.packet.declined?.includes(orderKey(this.order))
			? proposedMoves(this.packet, this.order)
			: []
	);
	/** Seams read off the pages, beside those that a person set. */
	readonly proposedSeams: readonly ProposedSeam[] = $derived(
		this.#judgement.seams.filter(
			(s) =>
				this.packet.pages[s.page] &&
				!this.packet.seams.some((own) => own.page === s.page && own.questions.includes(s.questions[0]!))
		)
	);
	/** The map as it will be once every proposal is confirmed. */
	readonly mapped = $derived({
		strip: this.packet.strip,
		seams: [...this.packet.seams, ...this.proposedSeams]
	});
	readonly preparing = $derived(
		this.packet.strip.filter((id) => !this.view.pages[id]?.prepared && !this.view.pages[id]?.problem).length
	);
	/** Milliseconds until all are prepared, by how it goes; null while that is not known, or soon. */
	moreTime = $state.raw<number | null>(null);
	readonly #pace = new Pace();
	readonly canUndo = $derived(this.view.canUndo || this.waiting > 0);
	readonly canRedo = $derived(this.view.canRedo && this.waiting === 0);

	#outgoing: UnsentEdit[] = [];
	#sending = false;
	#events: EventSource | null = null;
	#clock: ReturnType<typeof setInterval> | undefined;
	#refetch: ReturnType<typeof setTimeout> | undefined;

	/**
	 * @param reads whether pages are read on this server
	 * @param judges whether rules, order and map are worked out: not of a stack, which is nobody's packet
	 */
	constructor(
		view: PacketView,
		readonly reads: boolean,
		readonly judges = true
	) {
		this.view = view;
		this.packet = view.packet;
		this.now = view.now;
		this.current = view.packet.strip[0] ?? null;
		if (view.findings) this.#judged = { ...NOTHING_YET, findings: view.findings };
	}

	/** Begins to listen for news; returns how to stop. */
	listen(): () => void {
		this.#clock = setInterval(() => (this.now = Date.now() + this.view.now - this.viewTakenAt), 10_000);
		this.#events = new EventSource(`/api/packets/${this.view.id}/events`);
		this.#events.addEventListener('changed', () => this.refresh());
		this.#events.addEventListener('open', () => {
			this.online = true;
			this.refresh();
			void this.#send();
		});
		this.#events.addEventListener('error', () => (this.online = false));
		const leave = (event: BeforeUnloadEvent) => {
			if (this.waiting > 0) event.preventDefault();
		};
		addEventListener('beforeunload', leave);
		const endJudging = this.judges ? this.#judgeBeside() : () => undefined;
		void this.#takeUpUnsent();
		return () => {
			clearInterval(this.#clock);
			clearTimeout(this.#refetch);
			this.#events?.close();
			endJudging();
			removeEventListener('beforeunload', leave);
		};
	}

	/** Judges each state of a large packet in a worker; returns how to stop. */
	#judgeBeside(): () => void {
		let judging: Judging | null = null;
		const end = $effect.root(() => {
			$effect(() => {
				if (this.packet.strip.length <= LARGE) return;
				judging ??= new Judging((judgement) => (this.#judged = judgement));
				judging.judge(this.#input);
			});
		});
		return () => {
			end();
			judging?.close();
		};
	}

	/** Makes an edit. */
	edit(change: Change): void {
		try {
			this.packet = apply(this.packet, change).packet;
		} catch (error) {
			this.notice = (error as Error).message;
			return;
		}
		this.#tellServer({ kind: 'edit', change, key: newKey() });
	}

	undo(): void {
		if (this.canUndo) this.#tellServer({ kind: 'undo', key: newKey() });
	}

	redo(): void {
		if (this.canRedo) this.#tellServer({ kind: 'redo', key: newKey() });
	}

	/** Fetches the newest state, soon; several calls in a row become one. */
	refresh(): void {
		clearTimeout(this.#refetch);
		this.#refetch = setTimeout(() => void this.#fetch(), 80);
	}

	/** Address of a page's picture; it changes with what is shown. */
	image(page: string, kind: 'thumb' | 'view' | 'flat' | 'source'): string | null {
		const known = this.view.pages[page];
		if (!known) return null;
		const pictures = `/api/packets/${this.view.id}/pictures`;
		if (kind !== 'source') return known.prepared ? `${pictures}/${known.key}/${kind}` : null;
		const { source, sourcePage } = this.packet.pages[page]!;
		return known.picture ? `${pictures}/${source}-${sourcePage}/source` : null;
	}

	/** Edits that an earlier visit could not send are made now; the server knows those it has carried out. */
	async #takeUpUnsent(): Promise<void> {
		const left = await unsentEdits.all(this.view.id).catch(() => []);
		const taken = left.filter((m) => !this.#outgoing.some((known) => known.key === m.key));
		if (taken.length === 0) return;
		this.#outgoing.unshift(...taken);
		this.waiting = this.#outgoing.length;
		this.#show(this.view, 0);
		void this.#send();
	}

	#tellServer(message: UnsentEdit): void {
		this.#outgoing.push(message);
		void unsentEdits.put(this.view.id, message).catch(() => undefined);
		this.waiting = this.#outgoing.length;
		void this.#send();
	}

	async #send(): Promise<void> {
		if (this.#sending) return;
		this.#sending = true;
		try {
			while (this.#outgoing[0]) {
				const answer = await this.#post(this.#outgoing[0]);
				if (answer === 'again') continue;
				if (answer === 'later') {
					setTimeout(() => void this.#send(), RETRY);
					return;
				}
				const done = this.#outgoing.shift()!;
				void unsentEdits.delete(done.key).catch(() => undefined);
				this.waiting = this.#outgoing.length;
			}
		} finally {
			this.#sending = false;
		}
	}

	async #post(message: UnsentEdit): Promise<'done' | 'again' | 'later'> {
		let response: Response;
		try {
			response = await fetch(`/api/packets/${this.view.id}/changes`, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ ...message, base: this.view.version, heard: this.#heard })
			});
		} catch {
			this.online = false;
			return 'later';
		}
		this.online = true;
		if (response.ok) {
			await this.#take((await response.json()) as PacketNews, 1);
			return 'done';
		}
		if (response.status >= 500) return 'later';
		if (response.status === 409) {
			await this.#fetch();
			return 'again';
		}
		const { message: problem } = (await response.json().catch(() => ({}))) as { message?: string };
		this.notice = problem ?? 'This could not be done.';
		await this.#fetch(1);
		return 'done';
	}

	get #heard() {
		return { version: this.view.version, news: this.view.news, sheet: this.view.assignment.version };
	}

	/** @param done edits on their way that the answer takes in */
	async #fetch(done = 0): Promise<void> {
		const { version, news: heard, sheet } = this.#heard;
		const since = `version=${version}&news=${heard}&sheet=${sheet}`;
		const news = await this.#get<PacketNews>(`/api/packets/${this.view.id}/news?${since}`);
		if (news) await this.#take(news, done);
	}

	async #get<T>(address: string): Promise<T | null> {
		const response = await fetch(address).catch(() => null);
		this.online = response !== null;
		if (response?.status === 401) location.assign('/sign-in');
		return response?.ok ? ((await response.json()) as T) : null;
	}

	/** What is new, from the server. Where it does not follow on what is known here, everything is fetched. */
	async #take(news: PacketNews, done: number): Promise<void> {
		const view = withNews(this.view, news) ?? (await this.#get<PacketView>(`/api/packets/${this.view.id}`));
		if (view) this.#show(view, done);
	}

	/** A new state; the edits still on their way are made on top of it again. */
	#show(view: PacketView, done: number): void {
		if (view.version < this.view.version) return;
		this.view = view;
		this.viewTakenAt = Date.now();
		this.moreTime = this.#pace.told(this.preparing, performance.now());
		let packet = view.packet;
		for (const message of this.#outgoing.slice(done)) {
			if (message.kind !== 'edit') continue;
			try {
				packet = apply(packet, message.change).packet;
			} catch {
				// It no longer fits; the server will say so.
			}
		}
		this.packet = packet;
		const exists = this.current !== null && packet.pages[this.current];
		if (!exists) this.current = packet.strip[0] ?? null;
	}
}
