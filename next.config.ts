import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { NextConfig } from 'next';

/** Of what the answers are made: what a device holds of another version is not shown by this one. */
function contractVersion(): string {
  const hash = createHash('sha256');
  for (const folder of ['contract', 'core'])
    for (const file of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort())
      if (file.endsWith('.ts') && !file.endsWith('.test.ts'))
        hash.update(file).update(readFileSync(path.join(folder, file)));
  return hash.digest('hex').slice(0, 16);
}

const config: NextConfig = {
  env: { CONTRACT_VERSION: contractVersion() },
  serverExternalPackages: ['sequelize', 'pg', '@node-rs/argon2', 'pino', 'sharp', 'graphile-worker'],
  poweredByHeader: false,
  devIndicators: false,
  // Types are a step of the tests of their own; a first start need not wait for them again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
