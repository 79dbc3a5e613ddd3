'use client'

import { useEffect, useState, useSyncExternalStore } from 'react'
import { type Loop, NO_BLUR } from '@/core/document'
import { withTint } from '@/core/edit'
import { currentLoop, documentStore } from '@/store/document'
import { type FrameStore, stageFrames } from '@/store/frames'
import { frameNow, usePlayback } from '@/store/playback'
import { usePlayhead, useSession } from '@/store/session'
import { tellTrouble } from '@/store/trouble'
import type { FramesStatus } from '@/workers/inside/screen'

/** Drawing is restarted at most this often. */
const MAX_RESTARTS = 3

const sharpened = new WeakMap<Loop, Loop>()

/** A loop without the blur of its frames. */
function sharp(loop: Loop): Loop {
  if (loop.blur.shutter === 0) return loop
  const known = sharpened.get(loop) ?? { ...loop, blur: NO_BLUR }
  sharpened.set(loop, known)
  return known
}

/** The colour of masks that are shown as a tint: no lamp, and no sea. */
const TINT = '#e2703a'
const tinted = new WeakMap<Loop, { readonly id: string; readonly loop: Loop }>()

/** A loop with one of its masks shown as a tint; the same one while neither changes. */
function inTint(loop: Loop, id: string): Loop {
  const known = tinted.get(loop)
  if (known?.id === id) return known.loop
  const made = withTint(loop, id, TINT)
  tinted.set(loop, { id, loop: made })
  return made
}

/**
 * The drawn frames of the shown loop, at the width of an element in px; they live as long as the view. A change goes to
 * the worker at once, before the interface has been drawn anew.
 */
export function useFrames(width: number): FrameStore | null {
  const [store, setStore] = useState<FrameStore | null>(null)
  const [deaths, setDeaths] = useState(0)
  // A worker that dies takes its canvas with it; another one is started, with another canvas, unless that happens again and again.
  useEffect(() => {
    if (deaths > MAX_RESTARTS) return
    const { frames, end } = stageFrames()
    setStore(frames)
    frames.broken.catch((error) => {
      tellTrouble(
        deaths < MAX_RESTARTS
          ? 'The drawing of the loop broke down and was started again; nothing of it was lost.'
          : 'The drawing of the loop breaks down again and again. Save the loop to a file, and reload the page.',
        error,
      )
      setDeaths(deaths + 1)
    })
    return () => {
      end()
      setStore(null)
    }
  }, [deaths])
  useEffect(() => {
    if (!store || width <= 0) return
    let shown = null as unknown
    let shownFrame = -1
    const show = () => {
      const { preview, showBlur, tint, selection } = useSession.getState()
      const open = preview ?? currentLoop()
      const whole = open && tint && selection[0] !== undefined ? inTint(open, selection[0]) : open
      const loop = whole && !showBlur ? sharp(whole) : whole
      const { playback } = usePlayback.getState()
      const frame = frameNow()
      if (!loop || (loop === shown && (playback || frame === shownFrame))) return
      shown = loop
      shownFrame = frame
      store.show(loop, width * devicePixelRatio, frame)
    }
    show()
    const stops = [documentStore, useSession, usePlayhead].map((each) => each.subscribe(show))
    return () => {
      for (const stop of stops) stop()
    }
  }, [store, width])
  useEffect(() => {
    if (!store) return
    const play = () => store.play(usePlayback.getState().playback)
    play()
    return usePlayback.subscribe(play)
  }, [store])
  return store
}

const NOTHING_KEPT = new Uint8Array()
const never = () => () => {}

/** Which frames are drawn and kept: 1 or 0 for each. */
export const useCached = (frames: FrameStore | null): Uint8Array =>
  useSyncExternalStore(
    frames?.subscribe ?? never,
    () => frames?.status().cached ?? NOTHING_KEPT,
    () => NOTHING_KEPT,
  )

/** The pace that was measured; null while it stands still. */
export const useMeasured = (frames: FrameStore | null): FramesStatus['measured'] =>
  useSyncExternalStore(
    frames?.subscribe ?? never,
    () => frames?.status().measured ?? null,
    () => null,
  )

const NONE_MISSING: readonly string[] = []

/** Ids of the pictures and clips that the shown frame has holes for. */
export const useMissing = (frames: FrameStore | null): readonly string[] =>
  useSyncExternalStore(
    frames?.subscribe ?? never,
    () => frames?.status().missing ?? NONE_MISSING,
    () => NONE_MISSING,
  )
