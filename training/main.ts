import { drawPages, drawSamples } from './draw';
import type { Part } from './hands';

const [folder, part, count, share, kind] = process.argv.slice(2);
if (!folder || !part || !count) {
	console.error('Use: training FOLDER training|tuning|test COUNT [SHARE] [pages]');
	process.exit(1);
}
const draw = kind === 'pages' ? drawPages : drawSamples;
await draw(folder, part as Part, Number(count), Number(share ?? 0));
