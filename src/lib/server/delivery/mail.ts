import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import MailComposer from 'nodemailer/lib/mail-composer';
import { parseConnectionUrl } from 'nodemailer/lib/shared';
import SMTPConnection from 'nodemailer/lib/smtp-connection';
import type { DeliveryRow, Receipt } from '../store/deliveries';
import {
	RefusedError,
	UnreachableError,
	UnsureError,
	type Submission,
	type Recalled,
	type Target
} from './target';

/** Milliseconds of silence after which a mail server counts as gone. */
const TIMEOUT = { connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 30_000 };

/**
 * Mail, by way of a mail server. The server's word means that it passes the letter on, not that anybody has it. SMTP
 * cannot be asked whether a letter went out whose answer was lost (RFC 5321, 4.5.4.1, would have it sent again), so a
 * letter goes out once, and where that is not sure a person decides.
 */
export class Mail implements Target {
	readonly name = 'mail';
	readonly confirms = 'sent';
	readonly knowsKeys = false;

	/**
	 * @param server address such as smtp://127.0.0.1:2525
	 * @param from the sender's address
	 */
	constructor(
		readonly server: string,
		readonly from: string
	) {}

	async deliver(submission: Submission, sent: () => Promise<void>): Promise<Receipt> {
		const { assignment } = submission;
		const id = messageId(submission.key, this.from);
		const letter = await this.#write(submission, id);
		const connection = new SMTPConnection({ ...parseConnectionUrl(this.server), ...TIMEOUT });
		let isOut = false;
		try {
			await connected(connection, this.server);
			// A letter without its last byte is none: that goes when it is written down that it does.
			const stream = Readable.from(
				(async function* () {
					yield letter.subarray(0, -1);
					await sent();
					isOut = true;
					yield letter.subarray(-1);
				})()
			);
			await new Promise<void>((done, fail) => {
				connection.on('error', fail);
				connection.send({ from: this.from, to: [submission.to] }, stream, (error) =>
					error ? fail(error) : done()
				);
			});
			connection.quit();
			return {
				number: letterHash(submission.key),
				receivedAt: new Date().toISOString(),
				sha256: submission.sha256,
				bytes: submission.bytes.length,
				late: assignment.due !== null && Date.now() > Date.parse(assignment.due)
			};
		} catch (error) {
			connection.close();
			const { responseCode, response } = error as { responseCode?: number; response?: string };
			if (responseCode && responseCode >= 500) {
				throw new RefusedError(`The mail server said no: ${response ?? responseCode}`);
			}
			// An answer below 500 is one: the server has not taken it.
			if (isOut && !responseCode) {
				throw new UnsureError(
					'The whole letter went out, and the mail server’s answer was lost. It has probably arrived.'
				);
			}
			throw new UnreachableError('The mail server does not answer.');
		}
	}

	/**
	 * Sends a letter that hands nothing in.
	 * @throws RefusedError, UnreachableError
	 */
	async write(to: string, subject: string, text: string): Promise<void> {
		const letter = await new MailComposer({ from: this.from, to, subject, text }).compile().build();
		const connection = new SMTPConnection({ ...parseConnectionUrl(this.server), ...TIMEOUT });
		try {
			await connected(connection, this.server);
			await new Promise<void>((done, fail) => {
				connection.on('error', fail);
				connection.send({ from: this.from, to: [to] }, letter, (error) => (error ? fail(error) : done()));
			});
			connection.quit();
		} catch (error) {
			connection.close();
			const { responseCode, response } = error as { responseCode?: number; response?: string };
			if (responseCode) throw new RefusedError(`The mail server said no: ${response ?? responseCode}`);
			throw new UnreachableError(`The mail server does not answer: ${(error as Error).message}`);
		}
	}

	recall({ receipt, mayBeOut }: Recalled): Promise<void> {
		return receipt || mayBeOut
			? Promise.reject(new RefusedError('A letter that has gone out cannot be taken back.'))
			: Promise.resolve();
	}

	#write(submission: Submission, id: string): Promise<Buffer> {
		const { assignment, student } = submission;
		const words = submission.comment ? `${submission.comment}\n\n` : '';
		const composer = new MailComposer({
			messageId: id,
			from: { name: `${student.name} by Membrana`, address: this.from },
			replyTo: student.email ?? undefined,
			to: submission.to,
			subject: `${assignment.course} ${assignment.title}: ${student.name}`,
			text: `${words}${submission.fileName}, ${submission.bytes.length} bytes\nSHA-256 ${submission.sha256}\n`,
			attachments: [
				{
					filename: submission.fileName,
					content: submission.bytes,
					contentType: submission.type === 'pdf' ? 'application/pdf' : 'application/zip'
				}
			]
		});
		return composer.compile().build();
	}
}

/** Opens the connection and signs in where the address says how. */
function connected(connection: SMTPConnection, server: string): Promise<void> {
	const { auth } = parseConnectionUrl(server) as { auth?: { user: string; pass: string } };
	return new Promise((done, fail) => {
		connection.once('error', fail);
		connection.connect((error) => {
			if (error) return fail(error);
			if (!auth) return done();
			connection.login({ credentials: auth }, (wrong) => (wrong ? fail(wrong) : done()));
		});
	});
}

/** The receipt of a letter whose answer was lost, when a person says that it arrived. */
export function receiptOfArrived(delivery: DeliveryRow, due: string | null): Receipt {
	const sentAt = delivery.sentAt ?? delivery.handedInAt;
	return {
		number: letterHash(delivery.idempotencyKey),
		receivedAt: new Date(sentAt).toISOString(),
		sha256: delivery.sha256,
		bytes: delivery.bytes,
		late: due !== null && Date.parse(sentAt) > Date.parse(due)
	};
}

function letterHash(key: string): string {
	return createHash('sha256').update(key).digest('hex').slice(0, 20);
}

function messageId(key: string, from: string): string {
	return `<${letterHash(key)}@${from.split('@')[1] ?? 'membrana'}>`;
}
