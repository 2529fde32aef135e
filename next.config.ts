import type { NextConfig } from 'next';

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // `./linstock test` checks the types of everything, tests and scripts included.
  typescript: { ignoreBuildErrors: true },
  // These load files of their own at run time, which a bundle would hide from them.
  serverExternalPackages: [
    '@electric-sql/pglite',
    'pg',
    'execa',
    'proper-lockfile',
    'pino',
    'send',
    '@tus/server',
    '@tus/file-store',
  ],
};

export default config;
