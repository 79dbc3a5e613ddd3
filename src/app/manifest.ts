import type { MetadataRoute } from 'next'

/** Manifest by which a browser installs the application. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    id: '/',
    name: 'Cyclon',
    short_name: 'Cyclon',
    description: 'A workbench for animations that repeat without a seam, and files that prove it.',
    start_url: '/',
    display: 'standalone',
    background_color: '#0b1f2b',
    theme_color: '#0b1f2b',
    icons: [{ src: '/icon.svg', type: 'image/svg+xml', sizes: 'any', purpose: 'any' }],
  }
}
