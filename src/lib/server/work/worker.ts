// The code of a worker thread, which `pool.cjs` (see vite.node.config.ts) hands on by name.
export {
	filePage,
	flat,
	lock,
	makeFile,
	prepare,
	read,
	readText,
	receipt,
	takeIn,
	unpack,
	weigh
} from './steps';
