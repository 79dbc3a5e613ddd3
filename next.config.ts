import type { NextConfig } from 'next'

const config: NextConfig = {
  reactStrictMode: true,
  devIndicators: false,
  poweredByHeader: false,
  // They load libraries beside them, which a bundle would part them from.
  serverExternalPackages: ['sharp'],
}

export default config
