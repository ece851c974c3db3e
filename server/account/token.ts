import { createHash, randomBytes } from 'node:crypto';

/** A secret that is handed out once; only its hash is on file. */
export const newToken = (): string => randomBytes(32).toString('base64url');
export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();
