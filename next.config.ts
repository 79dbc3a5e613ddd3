import type { NextConfig } from 'next'
import { policyOf } from './src/app/policy'

const config: NextConfig = {
  reactStrictMode: true,
  devIndicators: false,
  poweredByHeader: false,
  // `npm run types` checks them, under one configuration for kernels and one for all other files.
  typescript: { ignoreBuildErrors: true },
  // No picture is made smaller by the server, and so nobody can have it do that.
  images: { unoptimized: true },
  // They load libraries beside them, which a bundle would part them from.
  serverExternalPackages: ['sharp', 'esbuild'],
  // Nothing of another origin is shown or loaded. In return workers may share the memory of the frames that they write.
  headers: async () => [
    {
      source: '/:path*',
      headers: [
        { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
        { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'same-origin' },
      ],
    },
    {
      // Scripts, workers and answers; the policy of pages comes from `src/proxy.ts`.
      source: '/:path(_next/.*|api/.*|sw\\.js|icon\\.svg|manifest\\.webmanifest)',
      headers: [{ key: 'Content-Security-Policy', value: policyOf(null, process.env.NODE_ENV === 'development') }],
    },
  ],
}

export default config
