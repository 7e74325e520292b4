import type { Person } from '$lib/server/store/people';

declare global {
	namespace App {
		interface Locals {
			person: Person | null;
		}
		interface Error {
			message: string;
		}
	}
}

export {};
