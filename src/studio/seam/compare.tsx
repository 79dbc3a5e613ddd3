'use client'

import { useEffect, useRef, useState } from 'react'
import { useRoom } from '../parts'

export const MODES = ['side by side', 'flip', 'difference', 'onion skin', 'wipe'] as const
export type Mode = (typeof MODES)[number]

/** Where the compared frames come from: a loop, or a file. */
export interface FrameSource {
  /** px */
  readonly width: number
  readonly height: number
  readonly transparent: boolean
  readonly bitmap: (n: number, width: number, height: number) => Promise<ImageBitmap>
  /** What differs between two frames, so many times. */
  readonly difference: (a: number, b: number, gain: number, width: number, height: number) => Promise<ImageBitmap>
}

export interface ComparedFrame {
  readonly n: number
  /** As `the last frame`, or `frame 12`. */
  readonly name: string
  /** With what else is worth saying. */
  readonly label: string
}

interface CompareProps {
  readonly source: FrameSource
  readonly mode: Mode
  /** All of them side by side; the first two in every other mode. */
  readonly frames: readonly ComparedFrame[]
  readonly gain: number
  readonly flips: number
}

const reducedMotion = () => matchMedia('(prefers-reduced-motion: reduce)').matches

/** Frames against each other, as those on both sides of the seam. */
export function Compare({ source, mode, frames, gain, flips }: CompareProps) {
  const { box, ...room } = useRoom()
  const shown = mode === 'side by side' ? frames : frames.slice(0, 2)
  const beside = mode === 'side by side' ? shown.length : 1
  const scale = Math.max(
    0.02,
    Math.min((room.width - 32 - 16 * (beside - 1)) / beside / source.width, (room.height - 64) / source.height),
  )
  const width = Math.max(1, Math.round(source.width * scale))
  const height = Math.max(1, Math.round(source.height * scale))
  const bitmaps = useBitmaps(source, shown.map(({ n }) => n).join(), mode === 'difference' ? gain : null, width, height)
  const [second, setSecond] = useState(false)
  const [edge, setEdge] = useState(0.5)
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
  const [a, b] = shown.map(({ name }) => name)
  const captions =
    mode === 'side by side'
      ? shown.map(({ label }) => label)
      : mode === 'flip'
        ? [shown[second ? 1 : 0]?.label]
        : mode === 'difference'
          ? [`what differs between ${a} and ${b}, ${gain} times; black is alike`]
          : mode === 'wipe'
            ? [`${a} on the left, ${b} on the right`]
            : [`${a} and ${b}, half and half`]
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
            className={source.transparent && mode !== 'difference' ? 'weave' : ''}
            style={{ width, height, outline: '1px solid var(--color-base-300)' }}
          >
            <BitmapCanvas
              bitmaps={layers}
              width={width}
              height={height}
              edge={mode === 'wipe' ? edge : null}
              label={captions[i] ?? ''}
            />
          </div>
          <figcaption className="dim mt-1.5 text-xs">{captions[i]}</figcaption>
          {mode === 'wipe' && (
            <input
              type="range"
              className="mt-1 accent-primary"
              aria-label="Where one frame ends and the other begins"
              min={0}
              max={1}
              step={0.005}
              value={edge}
              style={{ width }}
              onChange={(event) => setEdge(Number(event.target.value))}
            />
          )}
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

/** The pictures of some frames, or what differs between the first two of them. */
function useBitmaps(
  source: FrameSource,
  wanted: string,
  gain: number | null,
  width: number,
  height: number,
): readonly (ImageBitmap | null)[] {
  const [bitmaps, setBitmaps] = useState<readonly (ImageBitmap | null)[]>([])
  useEffect(() => {
    if (width < 2 || height < 2) return
    let current = true
    const list = wanted.split(',').map(Number)
    const draw = async () => {
      const [a = 0, b = 0] = list
      if (gain !== null) return [await source.difference(a, b, gain, width, height)]
      return Promise.all(list.map((n) => source.bitmap(n, width, height)))
    }
    void draw().then(
      (drawn) => {
        if (current) setBitmaps(drawn)
        else for (const bitmap of drawn) bitmap.close()
      },
      () => {
        if (current) setBitmaps([])
      },
    )
    return () => {
      current = false
    }
  }, [source, wanted, gain, width, height])
  return bitmaps
}

/** Bitmaps on a canvas: one, or two half and half or, with an edge, one beside the other. */
function BitmapCanvas({
  bitmaps,
  width,
  height,
  edge,
  label,
}: {
  bitmaps: readonly (ImageBitmap | null)[]
  width: number
  height: number
  /** Share of the width at which the second begins. */
  edge: number | null
  label: string
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    context.clearRect(0, 0, width, height)
    for (const [i, bitmap] of bitmaps.entries()) {
      if (!bitmap || bitmap.width === 0) continue
      const from = edge === null || i === 0 ? 0 : edge
      const until = edge === null || i > 0 ? 1 : edge
      context.globalAlpha = i === 0 || edge !== null ? 1 : 0.5
      context.drawImage(
        bitmap,
        ...([from * bitmap.width, 0, (until - from) * bitmap.width, bitmap.height] as const),
        ...([from * width, 0, (until - from) * width, height] as const),
      )
    }
    context.globalAlpha = 1
  }, [bitmaps, width, height, edge])
  return <canvas ref={canvas} width={width} height={height} role="img" aria-label={label} />
}
