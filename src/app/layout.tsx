import '@fontsource-variable/figtree'
import '@fontsource-variable/jetbrains-mono'
import './globals.css'
import type { Metadata } from 'next'
import { headers } from 'next/headers'
import { Frame } from '@/studio/shell/frame'

export const metadata: Metadata = {
  title: 'Cyclon',
  description: 'A workbench for animations that repeat without a seam, and files that prove it.',
}

export default async function RootLayout({ children }: { children: React.ReactNode }) {
  // The nonce of this response, which `proxy.ts` has put into its policy.
  const policy = (await headers()).get('content-security-policy') ?? ''
  const nonce = /'nonce-([^']+)'/.exec(policy)?.[1] ?? ''
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Frame nonce={nonce}>{children}</Frame>
      </body>
    </html>
  )
}
