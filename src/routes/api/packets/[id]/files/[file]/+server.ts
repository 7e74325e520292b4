import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { error, json, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { fileFor } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';
import type { FileRow } from '$lib/server/store/deliveries';

/** A made file; with `?state` only how far it is. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db, vault } = await services();
	const { file } = await fileFor(db, locals, params.id!, params.file!);
	if (url.searchParams.has('state')) return json(file);
	needReady(file);
	const stream = Readable.toWeb(createReadStream(vault.pathOf(file.sha256!))) as ReadableStream;
	return download(stream, file, file.bytes!, url.searchParams.has('open'));
};

const body = Joi.object<{ password: string }>({
	password: Joi.string().min(4).max(100).required().messages({
		'string.min': 'The password must have at least four characters.',
		'any.required': 'Give a password.'
	})
});

/** The file locked with a password, which is not kept. */
export const POST: RequestHandler = async ({ params, locals, request }) => {
	const { db, vault, pool } = await services();
	const { file } = await fileFor(db, locals, params.id!, params.file!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	needReady(file);
	if (file.type !== 'pdf') error(422, 'Only a PDF can be locked with a password.');
	const { password } = value as { password: string };
	const locked = await pool.run('lock', { path: vault.pathOf(file.sha256!), password });
	return download(locked as BodyInit, file, locked.length, false);
};

function needReady(file: FileRow): void {
	if (file.state !== 'ready') error(409, file.problem ?? 'The file is still being made.');
}

function download(content: BodyInit, file: FileRow, bytes: number, open: boolean): Response {
	return new Response(content, {
		headers: {
			'content-type': file.type === 'pdf' ? 'application/pdf' : 'application/zip',
			'content-length': String(bytes),
			'content-disposition': asFile(`${file.name}.${file.type}`, open),
			'cache-control': 'private, no-cache'
		}
	});
}
