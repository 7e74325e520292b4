import sharp from 'sharp';
import { photograph } from '../demo/generator/photograph';
import { Random } from '../demo/generator/random';
import { writtenPage, type PageSpec, type PlacedLabel } from '../demo/generator/writtenPage';
import type { PacketPage, SamplePacket } from './packets';

/** A picture of a packet's page, and where its labels begin. */
export interface PacketShot extends PacketPage {
	readonly jpeg: Buffer;
	readonly labels: readonly PlacedLabel[];
}

const DESKS = ['wood', 'dark', 'white', 'stone'] as const;

/**
 * Photographs every page of a packet, each as it may come: askew, turned, in uneven light.
 *
 * @param turned whether some lie on their side or upside down
 */
export async function packetShots(packet: SamplePacket, seed: number, turned = true): Promise<PacketShot[]> {
	const random = new Random(seed + 999);
	const shots: PacketShot[] = [];
	for (const page of packet.pages) {
		const lies = random.chance(0.15) && turned ? random.pick([90, 180, 270] as const) : 0;
		shots.push({ ...page, ...(await photographPage(page.spec, lies, page.blur, random)) });
	}
	return shots;
}

/**
 * A page as it may come from a telephone: askew, in uneven light.
 *
 * @param lies degrees it lies turned
 * @param blur standard deviation in pixels by which the picture is out of focus
 */
export async function photographPage(
	spec: PageSpec,
	lies: 0 | 90 | 180 | 270,
	blur: number,
	random: Random
): Promise<Pick<PacketShot, 'jpeg' | 'labels'>> {
	const written = writtenPage({ ...spec, scale: 6.5 });
	const { picture } = photograph(written.picture, {
		seed: random.whole(1, 1e6),
		size: [1600, 2133],
		desk: random.pick(DESKS),
		lies,
		fill: lies === 90 || lies === 270 ? 0.92 : random.between(0.78, 0.9),
		slant: random.between(-5, 5),
		tilt: random.between(2, 9),
		falloff: random.between(0.1, 0.4),
		warmth: random.between(0.2, 0.8),
		blur,
		shadow: random.chance(0.2) ? random.between(0.2, 0.8) : undefined
	});
	const { data, width, height } = picture;
	const jpeg = await sharp(data, { raw: { width, height, channels: 3 } })
		.jpeg({ quality: 88 })
		.toBuffer();
	return { jpeg, labels: written.labels };
}
