import { json, type RequestHandler } from '@sveltejs/kit';
import { demoPictures } from '$lib/server/demoPictures';

/** The demo's pictures are made up and nobody's: a phone without sign-in may have them for its stand-in camera. */
export const GET: RequestHandler = async () => json(await demoPictures());
