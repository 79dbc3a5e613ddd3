import { create } from 'zustand'
import { checkMotions, type MotionReport } from '@/core/closing'
import type { Loop } from '@/core/document'
import { judgeLoop, type LoopVerdict, type SeamReport } from '@/core/seam'
import type { SeamService } from '@/workers/inside/seam.worker'
import { lastingService, seamClient, WorkerStopped } from '@/workers/page/clients'
import { currentLoop, documentStore, PANEL_INTERVAL_MS, pacedUpdate } from './document'
import { useSession } from './session'
import { tellTrouble } from './trouble'

/** The seam of the loop that is shown: motions at once, pictures as soon as they have been looked at. */
interface SeamState {
  readonly loop: Loop | null
  readonly motions: readonly MotionReport[]
  readonly pictures: SeamReport | null
  /** False while the pictures of an older state are still being shown. */
  readonly fresh: boolean
  readonly verdict: LoopVerdict | null
}

export const useSeam = create<SeamState>()(() => ({
  loop: null,
  motions: [],
  pictures: null,
  fresh: false,
  verdict: null,
}))

/** A look at the pictures that has taken longer than this is given up for a newer state, ms. */
const PATIENCE_MS = 400

/**
 * Delay of judging after a change, ms, or after the first of several as in a drag: the change is drawn first, and
 * judging takes a core that a drag needs for drawing.
 */
const AFTER_MS = 60
const AT_LATEST_MS = 900

/** Keeps the seam readout up to date with what is shown, also in the middle of a drag. Returns a function that stops. */
export function startSeamWatch(): () => void {
  const seam = lastingService(seamClient)
  let busy = false
  let since = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  let waitingSince = 0

  const look = async () => {
    if (busy) return
    busy = true
    try {
      await lookUntilFresh()
    } finally {
      busy = false
    }
  }

  const lookUntilFresh = async () => {
    let failures = 0
    for (;;) {
      const { loop, fresh } = useSeam.getState()
      if (!loop || fresh) return
      since = performance.now()
      let seen: Awaited<ReturnType<SeamService['judge']>>
      try {
        seen = await seam.ask(({ service }) => service.judge(loop))
      } catch (error) {
        if (error instanceof WorkerStopped) return
        // The loop that is open stays; its motions have been judged. A dead worker is tried once more.
        failures++
        tellTrouble('The pictures of the loop could not be looked at.', error)
        if (failures > 1) return
        continue
      }
      const current = useSeam.getState()
      if (!seen) continue
      const { pictures, media } = seen
      const isCurrent = current.loop === loop
      const known = isCurrent || current.loop?.id === loop.id
      if (known && current.loop)
        useSeam.setState({
          pictures,
          fresh: isCurrent,
          verdict: isCurrent
            ? judgeLoop({ ...current.loop, media }, current.motions, pictures)
            : judgeLoop(current.loop, current.motions, null),
        })
    }
  }

  const update = () => {
    const loop = useSession.getState().preview ?? currentLoop()
    if (!loop || loop === useSeam.getState().loop) return
    const motions = checkMotions(loop)
    const sameLoop = useSeam.getState().loop?.id === loop.id
    useSeam.setState(({ pictures }) => ({
      loop,
      motions,
      pictures: sameLoop ? pictures : null,
      fresh: false,
      verdict: judgeLoop(loop, motions, null),
    }))
    if (busy && performance.now() - since > PATIENCE_MS)
      void seam.ask(({ service }) => service.cancel()).catch(() => {})
    const now = performance.now()
    if (timer === undefined) waitingSince = now
    clearTimeout(timer)
    timer = setTimeout(
      () => {
        timer = undefined
        void look().catch((error) => tellTrouble('The verdict could not be worked out.', error))
      },
      Math.max(0, Math.min(AFTER_MS + PANEL_INTERVAL_MS, waitingSince + AT_LATEST_MS - now)),
    )
  }

  const pace = pacedUpdate(update)
  const stops = [documentStore.subscribe(pace.call), useSession.subscribe(pace.call), pace.stop]
  update()
  return () => {
    clearTimeout(timer)
    for (const stop of stops) stop()
    useSeam.setState({ loop: null, motions: [], pictures: null, fresh: false, verdict: null })
    seam.end()
  }
}
