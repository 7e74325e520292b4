import { drawSamples } from './draw';
import type { Part } from './hands';

const [folder, part, count, share] = process.argv.slice(2);
if (!folder || !part || !count) {
	console.error('Use: training FOLDER training|tuning|test COUNT [SHARE]');
	process.exit(1);
}
drawSamples(folder, part as Part, Number(count), Number(share ?? 0));
