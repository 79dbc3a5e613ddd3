import { useEffect, useRef } from 'react'
import { setSession, useSession } from '@/store/session'
import { tellTrouble } from '@/store/trouble'
import type { View } from '../commands'

/** Begins the tour of the open loop when it is asked for, or goes on with it; it ends with the workspace. */
export function useTour(go: (view: View) => void): void {
  const asked = useSession((session) => session.tourAsked)
  const end = useRef<() => void>(() => {})
  useEffect(() => {
    if (!asked) return
    setSession({ tourAsked: false })
    // Comes when it is asked for first.
    import('../tour/tour')
      .then(({ startTour, endTour }) => {
        end.current = endTour
        return startTour(go)
      })
      .catch((error) => tellTrouble('The tour could not be shown.', error))
  }, [asked, go])
  useEffect(() => () => end.current(), [])
}
