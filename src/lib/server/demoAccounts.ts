/** An account offered on the sign-in page; only in the demo. */
export interface DemoAccount {
	readonly login: string;
	readonly password: string;
	readonly who: string;
}

/** `./membrana demo` passes its accounts in the environment; without it there are none. */
export function demoAccounts(environment: NodeJS.ProcessEnv = process.env): DemoAccount[] {
	return environment.MEMBRANA_DEMO ? (JSON.parse(environment.MEMBRANA_DEMO) as DemoAccount[]) : [];
}
