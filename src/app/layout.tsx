import '@fontsource-variable/figtree'
import '@fontsource-variable/jetbrains-mono'
import './globals.css'
import type { Metadata } from 'next'
import { Frame } from '@/studio/shell/frame'

export const metadata: Metadata = {
  title: 'Cyclon',
  description: 'A workbench for animations that repeat without a seam, and files that prove it.',
}

export default function RootLayout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Frame>{children}</Frame>
      </body>
    </html>
  )
}
