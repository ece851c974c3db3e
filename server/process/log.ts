import pino from 'pino';

/** Structured log, one JSON line an event, on standard output. */
export const log = pino({ level: process.env.LOG_LEVEL ?? 'info', base: { pid: process.pid } });
