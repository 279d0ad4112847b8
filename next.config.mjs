/** @type {import('next').NextConfig} */
const config = {
  poweredByHeader: false,
  // Images come from our own API already sized; the optimizer would only add a second cache.
  images: { unoptimized: true },
  // A page has its title from the start: for everybody, not only for those who cannot wait for what is streamed.
  htmlLimitedBots: /.*/,
  serverExternalPackages: ['@node-rs/argon2', 'mysql2', 'harfbuzzjs', 'pino'],
  // bin/test checks the types of everything; checked again here, a first start would take a third longer.
  typescript: { ignoreBuildErrors: true },
  // Writing what a later build could begin from costs a first one a third of its time, and saves a later one less.
  experimental: { turbopackFileSystemCacheForBuild: false },
  // Headers of security are set by src/server/web.main.ts, with a nonce for each page.
  // HarfBuzz asks for Node's own modules where it runs in Node; in a browser there are none.
  turbopack: { resolveAlias: { module: { browser: './src/ui/nothing.ts' } } },
};

export default config;
