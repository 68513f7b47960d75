import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ['better-sqlite3', 'knex', 'pino'],
  typescript: { ignoreBuildErrors: true }, // `npm run types` checks them; once is enough
  turbopack: { root: import.meta.dirname },
  devIndicators: false,
  // a page's code is read when it is first asked for: at the start the pool's first rows are waited for
  experimental: {
    preloadEntriesOnStart: false,
    // a build takes half the time, and traces of errors are read as they were written: nobody downloads what the server runs
    serverMinification: false,
    turbopackSourceMaps: false,
    turbopackFileSystemCacheForBuild: false,
  },
  // scripts and styles, once; answers and pages say no-transform: packing 200 KB anew each time costs 4 ms, and this machine gains nothing by it
  compress: true,
  // answers of the interface and what it does not have: no page, kept by nobody; pages have their own (proxy.ts)
  headers: async () => [
    {
      source: '/api/:path*',
      headers: [
        { key: 'x-content-type-options', value: 'nosniff' },
        { key: 'content-security-policy', value: "default-src 'none'; frame-ancestors 'none'" },
        { key: 'cache-control', value: 'no-store, no-transform' },
        { key: 'referrer-policy', value: 'no-referrer' },
      ],
    },
  ],
};

export default config;
