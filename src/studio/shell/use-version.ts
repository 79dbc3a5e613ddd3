'use client'

import { useEffect } from 'react'
import { toast } from 'sonner'

/** Keeps the application in the browser, and says when there is a newer one. It is taken when that is asked for, never in the middle of work. */
export function useVersion() {
  useEffect(() => {
    if (process.env.NODE_ENV !== 'production' || !('serviceWorker' in navigator)) return
    let stop: (() => void) | null = null
    let ended = false
    const begin = async () => {
      const { keepApplication } = await import('@/offline/keep')
      if (ended) return
      stop = await keepApplication(
        {
          onWaiting: (take) =>
            toast('There is a new version of Cyclon.', {
              id: 'version',
              duration: Number.POSITIVE_INFINITY,
              action: { label: 'Save and take it', onClick: () => void take() },
            }),
          onOutdated: () =>
            toast('Another page has taken a new version of Cyclon.', {
              id: 'version',
              duration: Number.POSITIVE_INFINITY,
              action: { label: 'Reload this one', onClick: () => location.reload() },
            }),
        },
        async () => (await import('@/store/autosave')).saveNow(),
      )
      if (ended) stop()
    }
    // After what the page itself needs. Where a browser keeps nothing, the application works as long as its server does.
    const asked = setTimeout(() => void begin().catch(() => {}), 3000)
    return () => {
      ended = true
      clearTimeout(asked)
      stop?.()
    }
  }, [])
}
