declare module 'fs-native-extensions' {
	/** Locks an open file for this process, by the kernel; false when another holds it. */
	export function tryLock(descriptor: number): boolean;
}
