import type { NextConfig } from 'next'

const config: NextConfig = {
  reactStrictMode: true,
  devIndicators: false,
  poweredByHeader: false,
  // They load libraries beside them, which a bundle would part them from.
  serverExternalPackages: ['sharp', 'esbuild'],
  // Nothing of another origin is shown or loaded. In return workers may share the memory of the frames that they write.
  headers: async () => [
    {
      source: '/:path*',
      headers: [
        { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
        { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
      ],
    },
  ],
}

export default config
