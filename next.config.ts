import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'pg', '@node-rs/argon2', 'pino'],
  poweredByHeader: false,
  devIndicators: false,
};

export default config;
