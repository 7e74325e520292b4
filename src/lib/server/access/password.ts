import { hash, verify } from '@node-rs/argon2';

/** argon2id with the parameters OWASP recommends (19 MiB, 2 passes). */
const PARAMETERS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export function hashPassword(password: string): Promise<string> {
	return hash(password, PARAMETERS);
}

let decoy: Promise<string> | null = null;

/** Whether the password fits. Without a hash (no such person) it takes as long and says no. */
export async function passwordFits(passwordHash: string | null, password: string): Promise<boolean> {
	decoy ??= hashPassword('nobody has this password');
	const fits = await verify(passwordHash ?? (await decoy), password);
	return passwordHash !== null && fits;
}
