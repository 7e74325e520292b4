import { createHash } from 'node:crypto';
import { createTransport } from 'nodemailer';
import type { Receipt } from '../store/deliveries';
import { RefusedError, UnreachableError, type Parcel, type Target } from './target';

/**
 * Mail, by way of a mail server. The server's word means that it passes the letter on, not that anybody has it. SMTP
 * cannot be asked whether a letter went out whose answer was lost, so it is sent again, under the same Message-ID: by
 * that, servers and readers know the second for the first (RFC 5322, 3.6.4).
 */
export class Mail implements Target {
	readonly name = 'mail';
	readonly confirms = 'sent';

	/**
	 * @param server address such as smtp://127.0.0.1:2525
	 * @param from the sender's address
	 */
	constructor(
		readonly server: string,
		readonly from: string
	) {}

	async deliver(parcel: Parcel, sent: () => void): Promise<Receipt> {
		const transport = createTransport({ url: this.server, connectionTimeout: 10_000, socketTimeout: 30_000 });
		const { assignment, student } = parcel;
		const words = parcel.comment ? `${parcel.comment}\n\n` : '';
		try {
			sent();
			const taken = await transport.sendMail({
				messageId: messageId(parcel.key, this.from),
				from: { name: `${student.name} by Membrana`, address: this.from },
				replyTo: student.email ?? undefined,
				to: parcel.to,
				subject: `${assignment.course} ${assignment.title}: ${student.name}`,
				text: `${words}${parcel.fileName}, ${parcel.bytes.length} bytes\nSHA-256 ${parcel.sha256}\n`,
				attachments: [
					{
						filename: parcel.fileName,
						content: parcel.bytes,
						contentType: parcel.type === 'pdf' ? 'application/pdf' : 'application/zip'
					}
				]
			});
			return {
				number: taken.messageId.replace(/^<|@.*$/g, ''),
				receivedAt: new Date().toISOString(),
				sha256: parcel.sha256,
				bytes: parcel.bytes.length,
				late: assignment.due !== null && Date.now() > Date.parse(assignment.due)
			};
		} catch (error) {
			const { responseCode, response } = error as { responseCode?: number; response?: string };
			if (responseCode && responseCode >= 500) {
				throw new RefusedError(`The mail server said no: ${response ?? responseCode}`);
			}
			throw new UnreachableError('The mail server does not answer.');
		} finally {
			transport.close();
		}
	}

	recall(_key: string, receipt: Receipt | null): Promise<void> {
		if (receipt) return Promise.reject(new RefusedError('A letter that has gone out cannot be taken back.'));
		return Promise.resolve();
	}
}

function messageId(key: string, from: string): string {
	const hash = createHash('sha256').update(key).digest('hex').slice(0, 20);
	return `<${hash}@${from.split('@')[1] ?? 'membrana'}>`;
}
