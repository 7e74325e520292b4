import type { FileRow } from '../../src/lib/server/store/deliveries';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { until, type Client } from './app';

/** Brings one page into a student's packet, and says that question 1 begins at its top. */
export async function answerWith(
	student: Client,
	assignment: string,
	bytes: Buffer
): Promise<{ packet: string; version: number }> {
	const packet = await student.openPacket(assignment);
	const path = await student.beginUpload(packet, 'one.jpg', bytes.length);
	await student.continueUpload(path, bytes, 0);
	const view = await until(async () => {
		const now = await student.json<PacketView>(`/api/packets/${packet}`);
		const page = now.packet.strip[0];
		return page && now.pages[page]?.prepared ? now : null;
	});
	const seam = { id: 's', page: view.packet.strip[0]!, y: 0.02, questions: ['1'] };
	const change = { kind: 'setSeam', seam };
	const edit = { kind: 'edit', base: view.version, change };
	const edited = await student.send(`/api/packets/${packet}/changes`, edit);
	return { packet, version: ((await edited.json()) as PacketView).version };
}

/** Has the file of a packet made. */
export async function makeFile(student: Client, packet: string, version: number): Promise<FileRow> {
	const made = await student.send(`/api/packets/${packet}/file`, { version, type: 'pdf' });
	const { id } = (await made.json()) as FileRow;
	return until(async () => {
		const now = await student.json<FileRow>(`/api/packets/${packet}/files/${id}?state`);
		return now.state === 'ready' && now;
	});
}
