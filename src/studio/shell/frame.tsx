'use client'

import { ThemeProvider, useTheme } from 'next-themes'
import { useEffect } from 'react'
import { Toaster, toast } from 'sonner'
import { useTrouble } from '@/store/trouble'
import { useVersion } from './use-version'

function Toasts() {
  const { resolvedTheme } = useTheme()
  return (
    <Toaster
      theme={resolvedTheme === 'day' ? 'light' : 'dark'}
      position="bottom-right"
      offset={{ bottom: 72, right: 16 }}
      closeButton
      toastOptions={{
        style: {
          background: 'var(--color-neutral)',
          color: 'var(--color-neutral-content)',
          border: '1px solid var(--color-base-300)',
        },
        classNames: { description: '!text-inherit' },
      }}
    />
  )
}

/** Says what went wrong in the background, where nobody was waiting for it. */
function Troubles() {
  useEffect(
    () =>
      useTrouble.subscribe(({ last }) => {
        if (last) toast.error(last.what, { description: last.why, duration: 12_000 })
      }),
    [],
  )
  return null
}

/**
 * Frame around every view: the theme, the toasts, and the part that keeps the application in the browser.
 * @param nonce of this response, for the inline script that sets the theme before the first paint
 */
export function Frame({ nonce, children }: { nonce: string; children: React.ReactNode }) {
  useVersion()
  return (
    <ThemeProvider
      attribute="data-theme"
      themes={['night', 'day']}
      defaultTheme="night"
      enableSystem={false}
      nonce={nonce}
    >
      {children}
      <Toasts />
      <Troubles />
    </ThemeProvider>
  )
}
