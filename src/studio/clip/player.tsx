'use client'

import { useEffect, useRef, useState } from 'react'
import type { ClipPlan } from '@/core/footage'
import { classNames, useRoom } from '../parts'
import type { FrameSource } from '../seam/compare'
import { frameDue, seamOrder } from './playing'

interface PlayerProps {
  readonly source: FrameSource
  readonly plan: ClipPlan
  /** Only the frames about the seam. */
  readonly around: boolean
}

/** The pace around the seam. */
const SLOW = 0.25
/** Pixels of the frames that are held ready; where there are more of them, each is smaller. */
const CEILING = 64 * 1024 * 1024

/** The clip playing with its own delays; its frames are made ready before it begins. */
export function Player({ source, plan, around }: PlayerProps) {
  const { box, ...room } = useRoom()
  const canvas = useRef<HTMLCanvasElement>(null)
  const [ready, setReady] = useState(0)
  const [problem, setProblem] = useState<string | null>(null)
  const N = plan.frames.length
  const order = around ? seamOrder(N) : plan.frames.map((_, n) => n)
  const scale = Math.max(0, Math.min((room.width - 32) / source.width, (room.height - 48) / source.height))
  const held = Math.min(scale, Math.sqrt(CEILING / (order.length * source.width * source.height)))
  const width = Math.max(1, Math.round(source.width * held))
  const height = Math.max(1, Math.round(source.height * held))
  const wanted = order.join()
  const delays = order.map((n) => (plan.delaysMs[n] as number) / (around ? SLOW : 1)).join()
  useEffect(() => {
    if (width < 2) return
    let current = true
    setProblem(null)
    const bitmaps: ImageBitmap[] = []
    const numbers = wanted.split(',').map(Number)
    const times = delays.split(',').map(Number)
    let request = 0
    const prepare = async () => {
      for (const n of numbers) {
        const full = await source.bitmap(n, width, height)
        bitmaps.push(await createImageBitmap(full, { resizeWidth: width, resizeHeight: height }))
        full.close()
        if (!current) return
        setReady(bitmaps.length / numbers.length)
      }
      const began = performance.now()
      let last = -1
      const show = (now: number) => {
        const k = frameDue(times, Math.max(0, now - began))
        const context = k === last ? null : canvas.current?.getContext('2d')
        if (context) {
          context.clearRect(0, 0, width, height)
          context.drawImage(bitmaps[k] as ImageBitmap, 0, 0)
          if (canvas.current) canvas.current.dataset.frame = String(numbers[k])
          last = k
        }
        request = requestAnimationFrame(show)
      }
      request = requestAnimationFrame(show)
    }
    // A clip that is closed while its frames are made ready has nothing more to show.
    void prepare().catch((error) => {
      if (current) setProblem((error as Error).message)
    })
    return () => {
      current = false
      cancelAnimationFrame(request)
      for (const bitmap of bitmaps) bitmap.close()
    }
  }, [source, wanted, delays, width, height])
  const caption = () => {
    if (problem) return `It cannot be played: ${problem}`
    if (ready < 1) return `making frames ready, ${Math.round(100 * ready)} %`
    if (around) return `frames ${order[0]} to ${order.at(-1)} across the seam, at a quarter of the pace`
    return `${N} frames with their own delays`
  }
  return (
    <div ref={box} className="flex min-h-0 min-w-0 items-center justify-center overflow-hidden bg-base-200">
      <figure className="text-center">
        <canvas
          ref={canvas}
          data-testid="player"
          width={width}
          height={height}
          className={classNames(source.transparent && 'weave')}
          style={{ width: source.width * scale, height: source.height * scale }}
          role="img"
          aria-label={around ? 'The seam, playing slowly' : 'The clip, playing'}
        />
        <figcaption className="dim mt-1.5 text-xs">{caption()}</figcaption>
      </figure>
    </div>
  )
}
