import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'pg', '@node-rs/argon2', 'pino', 'sharp'],
  poweredByHeader: false,
  devIndicators: false,
  // Types are a step of the tests of their own; a first start need not wait for them again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
