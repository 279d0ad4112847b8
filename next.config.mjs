/** @type {import('next').NextConfig} */
const config = {
  poweredByHeader: false,
  // Images come from our own API already sized; the optimizer would only add a second cache.
  images: { unoptimized: true },
  serverExternalPackages: ['@node-rs/argon2', 'mysql2', 'harfbuzzjs'],
  // HarfBuzz asks for Node's own modules where it runs in Node; in a browser there are none.
  turbopack: { resolveAlias: { module: { browser: './src/ui/nothing.ts' } } },
  async headers() {
    return [
      {
        source: '/:path*',
        headers: [
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'same-origin' },
          { key: 'X-Frame-Options', value: 'DENY' },
        ],
      },
    ];
  },
};

export default config;
