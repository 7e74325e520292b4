import { availableParallelism } from 'node:os';

/** Processors that heavy work is spread over; more than this gain little, and each takes memory. */
export const CORES = Math.max(1, Math.min(availableParallelism(), 4));
