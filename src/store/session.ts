import { create } from 'zustand'
import type { Loop } from '@/core/loop'
import { documentStore, useOpenLoop } from './document'

export type Pace = 1 | 0.5 | 0.25
/** The frames that are played: all, or this many on each side of the seam. */
export const SEAM_REACH = 6

/** What is looked at, and how; none of it is part of the document. */
interface Session {
  /** Ids of the selected layers, in the order in which they were picked. */
  readonly selection: readonly string[]
  /** The property whose motion is shown. */
  readonly property: string | null
  /** A loop that is shown in place of the open one, to see what a change would do. */
  readonly preview: Loop | null
  readonly playing: boolean
  readonly pace: Pace
  readonly aroundSeam: boolean
  /** The kind of layer that the next drag on the stage draws; null to select. */
  readonly tool: string | null
  readonly snapping: boolean
  readonly commandList: boolean
  readonly shortcutSheet: boolean
}

export const useSession = create<Session>()(() => ({
  selection: [],
  property: null,
  preview: null,
  playing: false,
  pace: 1,
  aroundSeam: false,
  tool: null,
  snapping: true,
  commandList: false,
  shortcutSheet: false,
}))

export const setSession = useSession.setState

/** The frame that is shown, apart from the rest so that playing redraws nothing but the picture and the hand. */
export const usePlayhead = create<{ readonly frame: number }>()(() => ({ frame: 0 }))

/** Shows a whole frame of the loop, modulo its length. */
export function showFrame(frame: number): void {
  const { loop } = documentStore.getState()
  if (!loop) return
  const n = ((Math.round(frame) % loop.length) + loop.length) % loop.length
  if (n !== usePlayhead.getState().frame) usePlayhead.setState({ frame: n })
}

/** The loop to show: the preview where there is one. */
export const useShownLoop = (): Loop | null => {
  const open = useOpenLoop()
  const preview = useSession((session) => session.preview)
  return preview ?? open
}

/** The frame while it stands still; while the loop plays, the one at which it was started. */
export const useStillFrame = (): number => {
  const playing = useSession((session) => session.playing)
  const frame = usePlayhead((playhead) => (playing ? -1 : playhead.frame))
  return frame < 0 ? usePlayhead.getState().frame : frame
}
