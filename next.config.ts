import type { NextConfig } from 'next';

const IS_DEVELOPMENT = process.env.NODE_ENV === 'development';

/** Whoever asks for the kernel and takes it compressed. */
const COMPRESSED_KERNEL = {
  source: '/_next/static/media/:name(.+\\.wasm)',
  has: [{ type: 'header' as const, key: 'accept-encoding', value: '.*\\bgzip\\b.*' }],
};

/** Whoever asks for the code of a page and takes it as it was compressed when it was built. */
const COMPRESSED_CHUNK = {
  source: '/_next/static/chunks/:name([^/]+\\.js)',
  has: [{ type: 'header' as const, key: 'accept-encoding', value: '.*\\bbr\\b.*' }],
};

/** Headers of a file that was compressed beforehand, and has another name when its content is another. */
const asCompressed = (encoding: string, type: string) => [
  { key: 'Content-Encoding', value: encoding },
  { key: 'Content-Type', value: type },
  { key: 'Cache-Control', value: 'public, max-age=31536000, immutable' },
  { key: 'Vary', value: 'Accept-Encoding' },
];

const nextConfig: NextConfig = {
  // Tells programs apart: what a browser keeps of another one is not trusted.
  env: { NEXT_PUBLIC_BUILD: process.env['WARPBEAM_BUILD'] ?? Date.now().toString(36) },
  poweredByHeader: false,
  agentRules: false,
  compress: true,
  // The kernel as it was compressed once, when the application was built: 23 MB are sent as 7.
  rewrites: () =>
    Promise.resolve({
      beforeFiles: IS_DEVELOPMENT
        ? []
        : [
            { ...COMPRESSED_KERNEL, destination: '/kernel/:name.gz' },
            { ...COMPRESSED_CHUNK, destination: '/chunks/:name.br' },
          ],
      afterFiles: [],
      fallback: [],
    }),
  serverExternalPackages: ['sequelize', 'mariadb', 'umzug', '@ironcalc/wasm'],
  turbopack: { root: import.meta.dirname },
  experimental: {
    // A project file of the largest size, in characters of several bytes; the handlers have limits of their own below it.
    proxyClientMaxBodySize: '80mb',
    // One build takes half the work without what only further builds, or readers of what was built, have use for.
    turbopackFileSystemCacheForBuild: false,
    turbopackSourceMaps: IS_DEVELOPMENT,
    turbopackInputSourceMaps: IS_DEVELOPMENT,
    serverMinification: false,
  },
  // Types, lint and layers are checked by scripts/check.sh, on tests and scripts as well.
  typescript: { ignoreBuildErrors: true },
  headers: () =>
    Promise.resolve([
      {
        source: '/:path*',
        headers: [
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'X-Frame-Options', value: 'DENY' },
          { key: 'Referrer-Policy', value: 'same-origin' },
        ],
      },
      { ...COMPRESSED_KERNEL, headers: asCompressed('gzip', 'application/wasm') },
      ...(IS_DEVELOPMENT ? [] : [{ ...COMPRESSED_CHUNK, headers: asCompressed('br', 'text/javascript; charset=utf-8') }]),
    ]),
};

export default nextConfig;
