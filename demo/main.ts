import { spawn, type ChildProcess } from 'node:child_process';
import { access, rm, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openServices } from '../src/lib/server/services/services';
import type { DemoAccount } from '../src/lib/server/demoAccounts';
import { startMail } from '../standins/mail/mail';
import { startPortal } from '../standins/portal/portal';
import { startProvider } from '../standins/provider/provider';
import { fill, publishElsewhere } from './fill';
import { makePile } from './pile';
import { makePictures } from './pictures';
import { ADMINISTRATOR, STUDENTS, TEACHER } from './school';

// `node build-node/demo.js`: the demo world, the stand-ins and the application, all on loopback.
// `node build-node/demo.js pictures FOLDER FIRST OF`: draws a share of the photographs.

const folder = resolve(process.env.MEMBRANA_DEMO_FOLDER ?? 'data/demo');
const pictures = join(folder, 'pictures');
const port = Number(process.env.PORT ?? 4173);
const portalPort = Number(process.env.PORTAL_PORT ?? 4180);

const ACCOUNTS: DemoAccount[] = [
	{ login: STUDENTS[0].login, password: STUDENTS[0].password, who: 'Ilka Brandsma, student' },
	{ login: STUDENTS[1].login, password: STUDENTS[1].password, who: 'Tobias Okoro-Lind, student' },
	{ login: TEACHER.login, password: TEACHER.password, who: 'Maren Oskamp, teacher' },
	{ login: ADMINISTRATOR.login, password: ADMINISTRATOR.password, who: 'Wessel Hartkamp, administrator' }
];

const [, script, command, ...rest] = process.argv;
if (command === 'pile') await makePile(rest[0]!);
else if (command === 'pictures') await makePictures(rest[0]!, Number(rest[1]), Number(rest[2]));
else await demo();

async function demo(): Promise<void> {
	const portal = await startPortal({
		folder: join(folder, 'portal'),
		port: portalPort,
		maxBytes: Number(process.env.PORTAL_MAX_BYTES ?? 20_000_000)
	});
	const mail = await startMail({
		folder: join(folder, 'mail'),
		port: Number(process.env.MAIL_PORT ?? portalPort + 1),
		pagePort: Number(process.env.MAIL_PAGE_PORT ?? portalPort + 2)
	});
	const provider = await startProvider({
		port: Number(process.env.PROVIDER_PORT ?? portalPort + 3),
		client: 'membrana',
		people: STUDENTS.slice(0, 4).map((s) => ({ sub: s.identifier, name: `${s.given} ${s.family}` }))
	});
	const environment = {
		...process.env,
		MEMBRANA_DATA: join(folder, 'data'),
		MEMBRANA_PORTAL: portal.address,
		MEMBRANA_SMTP: mail.server,
		MEMBRANA_MAIL_FROM: 'hand-in@alderfen.example',
		MEMBRANA_OIDC_ISSUER: provider.issuer,
		MEMBRANA_OIDC_CLIENT: 'membrana',
		MEMBRANA_HAND_IN_FOLDER: join(folder, 'handed in')
	};
	const isNew = await access(join(folder, 'filled')).then(
		() => false,
		() => true
	);
	if (isNew) {
		console.log('Drawing the demo photographs …');
		await Promise.all(
			[0, 1].map((share) => finished(run([script!, 'pictures', pictures, String(share), '2'])))
		);
		console.log('Filling the demo packets …');
		// A fill that broke off is begun again from nothing.
		await rm(join(folder, 'data'), { recursive: true, force: true });
		const services = await openServices(environment);
		await publishElsewhere(portal.address);
		await fill(services, pictures);
		await services.close();
		await writeFile(join(folder, 'filled'), new Date().toISOString());
	}
	const app = run([fileURLToPath(new URL('./serve.js', import.meta.url))], {
		...environment,
		HOST: '127.0.0.1',
		PORT: String(port),
		// Open event streams must not hold the process up.
		SHUTDOWN_TIMEOUT: '2',
		MEMBRANA_DEMO: JSON.stringify(ACCOUNTS),
		MEMBRANA_DEMO_PICTURES: pictures
	});
	const stop = () => app.kill('SIGTERM');
	process.on('SIGINT', stop);
	process.on('SIGTERM', stop);
	app.on('exit', (code) => process.exit(code ?? 0));
	// Drawn while people look around already.
	if (isNew) run([script!, 'pile', pictures]);
	await answering(`http://127.0.0.1:${port}/sign-in`);
	console.log(`
Membrana (demo)   http://127.0.0.1:${port}
Stand-in portal   ${portal.address}
Stand-in mail     ${mail.page}
Stand-in identity provider  ${provider.issuer}
Photographs       ${pictures}

Sign in as
${ACCOUNTS.map((a) => `  ${a.login.padEnd(8)} ${a.password.padEnd(12)} ${a.who}`).join('\n')}
`);
}

function run(args: string[], env: NodeJS.ProcessEnv = process.env): ChildProcess {
	return spawn(process.execPath, args, { stdio: ['ignore', 'inherit', 'inherit'], env });
}

function finished(child: ChildProcess): Promise<void> {
	return new Promise((done, fail) => {
		child.on('exit', (code) =>
			code === 0 ? done() : fail(new Error('The photographs could not be drawn.'))
		);
	});
}

async function answering(address: string): Promise<void> {
	for (let i = 0; i < 300; i++) {
		const ok = await fetch(address).then(
			(r) => r.ok,
			() => false
		);
		if (ok) return;
		await new Promise((done) => setTimeout(done, 100));
	}
	throw new Error('The application did not start.');
}
