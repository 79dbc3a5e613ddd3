'use client'

import { useEffect, useRef, useState } from 'react'
import type { Loop } from '@/core/loop'
import { type Client, renderClient } from '@/workers/clients'
import type { RenderService } from '@/workers/render.worker'
import { useRoom } from '../parts'

export const MODES = ['side by side', 'flip', 'difference', 'onion skin'] as const
export type Mode = (typeof MODES)[number]

export type Moment = 'last' | 'closing' | 'first'
const frameOf = (moment: Moment, loop: Loop): number =>
  ({ last: loop.length - 1, closing: loop.length, first: 0 })[moment]
const momentLabel = (moment: Moment, loop: Loop) =>
  ({
    last: `last frame, ${loop.length - 1}`,
    closing: `closing frame, ${loop.length} (never written)`,
    first: 'first frame, 0',
  })[moment]

interface CompareProps {
  readonly loop: Loop
  readonly mode: Mode
  readonly pair: readonly [Moment, Moment]
  readonly gain: number
  readonly flips: number
}

const reducedMotion = () => matchMedia('(prefers-reduced-motion: reduce)').matches

/** The frames on both sides of the seam against each other. */
export function Compare({ loop, mode, pair, gain, flips }: CompareProps) {
  const { box, ...room } = useRoom()
  const beside = mode === 'side by side' ? 3 : 1
  const scale = Math.max(
    0.02,
    Math.min((room.width - 32 - 16 * (beside - 1)) / beside / loop.width, (room.height - 64) / loop.height),
  )
  const width = Math.max(1, Math.round(loop.width * scale))
  const height = Math.max(1, Math.round(loop.height * scale))
  const client = useRef<Client<RenderService> | null>(null)
  useEffect(() => {
    const made = renderClient()
    client.current = made
    return made.end
  }, [])
  const moments: readonly Moment[] = mode === 'side by side' ? ['last', 'closing', 'first'] : pair
  const bitmaps = useMoments(client, loop, moments, mode === 'difference' ? gain : null, width, height)
  const [second, setSecond] = useState(false)
  useEffect(() => {
    if (mode !== 'flip' || reducedMotion()) return
    const timer = setInterval(() => setSecond((each) => !each), 1000 / flips / 2)
    return () => clearInterval(timer)
  }, [mode, flips])

  const canvases =
    mode === 'side by side'
      ? bitmaps.map((bitmap) => [bitmap])
      : mode === 'flip'
        ? [[bitmaps[second ? 1 : 0] ?? null]]
        : [bitmaps]
  const captions =
    mode === 'side by side'
      ? moments.map((moment) => momentLabel(moment, loop))
      : mode === 'flip'
        ? [momentLabel(pair[second ? 1 : 0], loop)]
        : mode === 'difference'
          ? [`what differs between the ${pair[0]} and the ${pair[1]} frame, ${gain} times; black is alike`]
          : [`${pair[0]} and ${pair[1]} frame, half and half`]
  return (
    <div
      ref={box}
      className="flex min-h-0 min-w-0 items-center justify-center gap-4 overflow-hidden bg-base-200"
      data-testid="compare"
      data-mode={mode}
    >
      {canvases.map((layers, i) => (
        <figure key={i} className="text-center">
          <div
            className={loop.background === null && mode !== 'difference' ? 'weave' : ''}
            style={{ width, height, outline: '1px solid var(--color-base-300)' }}
          >
            <BitmapCanvas bitmaps={layers} width={width} height={height} label={captions[i] ?? ''} />
          </div>
          <figcaption className="dim mt-1.5 text-xs">{captions[i]}</figcaption>
          {mode === 'flip' && (
            <button type="button" className="btn btn-xs mt-1" onClick={() => setSecond(!second)}>
              Flip
            </button>
          )}
        </figure>
      ))}
    </div>
  )
}

/** The pictures at some moments of the seam, or what differs between the first two of them. */
function useMoments(
  client: React.RefObject<Client<RenderService> | null>,
  loop: Loop,
  moments: readonly Moment[],
  gain: number | null,
  width: number,
  height: number,
): readonly (ImageBitmap | null)[] {
  const [bitmaps, setBitmaps] = useState<readonly (ImageBitmap | null)[]>([])
  const wanted = moments.join()
  useEffect(() => {
    if (width < 2 || height < 2 || !client.current) return
    let current = true
    const { service } = client.current
    const list = wanted.split(',') as Moment[]
    const draw = async () => {
      const [a = 'last', b = 'first'] = list
      if (gain !== null)
        return [await service.difference(loop, frameOf(a, loop), frameOf(b, loop), gain, width, height)]
      return Promise.all(list.map((moment) => service.bitmap(loop, frameOf(moment, loop), width, height)))
    }
    void draw().then((drawn) => {
      if (current) setBitmaps(drawn)
      else for (const bitmap of drawn) bitmap.close()
    })
    return () => {
      current = false
    }
  }, [client, loop, wanted, gain, width, height])
  return bitmaps
}

/** Bitmaps on a canvas: one, or two half and half. */
function BitmapCanvas({
  bitmaps,
  width,
  height,
  label,
}: {
  bitmaps: readonly (ImageBitmap | null)[]
  width: number
  height: number
  label: string
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    context.clearRect(0, 0, width, height)
    for (const [i, bitmap] of bitmaps.entries()) {
      if (!bitmap || bitmap.width === 0) continue
      context.globalAlpha = i === 0 ? 1 : 0.5
      context.drawImage(bitmap, 0, 0, width, height)
    }
    context.globalAlpha = 1
  }, [bitmaps, width, height])
  return <canvas ref={canvas} width={width} height={height} role="img" aria-label={label} />
}
