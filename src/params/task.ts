import { TASKS } from '$lib/core/rules/finding';

export function match(value: string): boolean {
	return (TASKS as readonly string[]).includes(value);
}
