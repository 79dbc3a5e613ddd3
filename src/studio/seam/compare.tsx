'use client'

import { useEffect, useState } from 'react'
import type { DifferenceKind } from '@/core/image'
import type { Leap } from '@/core/seam'
import { tellTrouble } from '@/store/trouble'
import { LeapMarks, useRoom } from '../parts'
import { Guides } from './guides'
import { type Aids, LookTools, NO_AIDS } from './look-tools'
import { Loupe } from './loupe'
import { PictureCanvas } from './picture-canvas'
import { useViewport } from './viewport'

export const MODES = ['side by side', 'flip', 'difference', 'onion skin', 'wipe'] as const
export type Mode = (typeof MODES)[number]

/** A way to compare frames, with what it needs. */
export interface HowToCompare {
  readonly mode: Mode
  /** Times that a difference is shown, and how it is painted. */
  readonly gain: number
  readonly kind: DifferenceKind
  /** Flips per second. */
  readonly flips: number
}
export const FIRST_WAY: HowToCompare = { mode: 'side by side', gain: 8, kind: 'channels', flips: 2 }

/** Where the compared frames come from: a loop, or a file. */
export interface FrameSource {
  /** px */
  readonly width: number
  readonly height: number
  readonly transparent: boolean
  readonly bitmap: (n: number, width: number, height: number) => Promise<ImageBitmap>
  /** Difference of two frames, times a gain. */
  readonly difference: (
    a: number,
    b: number,
    how: Pick<HowToCompare, 'gain' | 'kind'>,
    width: number,
    height: number,
  ) => Promise<ImageBitmap>
}

export interface FrameToCompare {
  readonly n: number
  /** As `the last frame`, or `frame 12`. */
  readonly name: string
  /** With what else is worth saying. */
  readonly label: string
}

interface CompareProps {
  readonly source: FrameSource
  readonly how: HowToCompare
  /** All of them side by side; the first two in every other mode. */
  readonly frames: readonly FrameToCompare[]
  /** The leap between the first frame and the next, if there is one: it is marked in the pictures. */
  readonly leap?: Leap | null
}

/** Frames are fetched no larger than this, px of their longest side. */
const MAX_DETAIL_PX = 4096

const reducedMotion = () => matchMedia('(prefers-reduced-motion: reduce)').matches

const DIFFERS: Readonly<Record<DifferenceKind, (a?: string, b?: string, gain?: number) => string>> = {
  channels: (a, b, gain) => `what differs between ${a} and ${b}, ${gain} times; black is alike`,
  heat: (a, b, gain) => `how much ${a} and ${b} differ, ${gain} times; black is alike, white is most`,
  signed: (a, b, gain) => `where ${b} is lighter or darker than ${a}, ${gain} times; mid-grey is alike`,
}

/** Which places of a leap are marked in a picture: what is seen in that frame alone, or all where frames lie over each other. */
const sideOf = (mode: Mode, picture: number, second: boolean) => {
  if (mode === 'side by side') return picture === 0 ? 'before' : 'after'
  if (mode === 'flip') return second ? 'after' : 'before'
  return 'both'
}

/** Frames against each other, as those on both sides of the seam: zoomed and panned in lockstep, down to their pixels. */
export function Compare({ source, how, frames, leap = null }: CompareProps) {
  const { mode, gain, kind, flips } = how
  const { box, ...room } = useRoom()
  const [aids, setAids] = useState<Aids>(NO_AIDS)
  const [at, setAt] = useState<{ x: number; y: number; picture: number } | null>(null)
  const [second, setSecond] = useState(false)
  const [edge, setEdge] = useState(0.5)
  const shown = mode === 'side by side' ? frames : frames.slice(0, 2)
  const beside = mode === 'side by side' ? shown.length : 1
  const fit = Math.max(
    0.02,
    Math.min((room.width - 32 - 16 * (beside - 1)) / beside / source.width, (room.height - 64) / source.height),
  )
  const width = Math.max(1, Math.round(source.width * fit))
  const height = Math.max(1, Math.round(source.height * fit))
  const viewport = useViewport(box, { width: source.width, height: source.height, fit })
  // Frames are fetched as large as they are looked at.
  const most = Math.min(1, MAX_DETAIL_PX / Math.max(source.width, source.height))
  const whole = { width: Math.round(source.width * most), height: Math.round(source.height * most) }
  const detail = viewport.isWhole ? { width, height } : whole
  const wanted = shown.map(({ n }) => n).join()
  const difference = mode === 'difference' ? `${gain} ${kind}` : null
  const bitmaps = useBitmaps(source, wanted, difference, detail.width, detail.height)
  const pixels = useBitmaps(
    source,
    aids.loupe
      ? frames
          .slice(0, 2)
          .map(({ n }) => n)
          .join()
      : '',
    null,
    whole.width,
    whole.height,
  )
  useEffect(() => {
    if (mode !== 'flip' || reducedMotion()) return
    const timer = setInterval(() => setSecond((each) => !each), 1000 / flips / 2)
    return () => clearInterval(timer)
  }, [mode, flips])

  const flipped = second ? 1 : 0
  const [a, b] = shown.map(({ name }) => name)
  const { canvases, captions } = {
    'side by side': () => ({
      canvases: bitmaps.map((bitmap) => [bitmap]),
      captions: shown.map(({ label }) => label),
    }),
    flip: () => ({ canvases: [[bitmaps[flipped] ?? null]], captions: [shown[flipped]?.label] }),
    difference: () => ({ canvases: [bitmaps], captions: [DIFFERS[kind](a, b, gain)] }),
    wipe: () => ({ canvases: [bitmaps], captions: [`${a} on the left, ${b} on the right`] }),
    'onion skin': () => ({ canvases: [bitmaps], captions: [`${a} and ${b}, half and half`] }),
  }[mode]()
  return (
    <div className="grid min-h-0 min-w-0 grid-rows-[minmax(0,1fr)_auto] bg-base-200">
      <div
        ref={box}
        className="relative flex min-h-0 min-w-0 items-center justify-center gap-4 overflow-hidden"
        data-testid="compare"
        data-mode={mode}
      >
        {aids.loupe && (
          <Loupe
            bitmaps={pixels}
            names={frames.slice(0, 2).map(({ name }) => name)}
            size={source}
            at={at}
            left={at !== null && (at.picture + at.x / source.width) / canvases.length > 0.5}
          />
        )}
        {canvases.map((layers, i) => (
          <figure key={i} className="text-center">
            <PictureCanvas
              {...{ bitmaps: layers, width, height, size: source, view: viewport.view }}
              edge={mode === 'wipe' ? edge : null}
              label={captions[i] ?? ''}
              weave={source.transparent && mode !== 'difference'}
              onPan={viewport.pan}
              onPoint={(point) => setAt(point && { ...point, picture: i })}
            >
              <Guides
                {...{ view: viewport.view, width, height, size: source, grid: aids.grid, guides: aids.guides }}
                onChange={(guides) => setAids({ ...aids, guides })}
              />
              {leap && (
                <LeapMarks
                  leap={leap}
                  side={sideOf(mode, i, second)}
                  at={{
                    left: width / 2 - viewport.view.x * viewport.view.zoom,
                    top: height / 2 - viewport.view.y * viewport.view.zoom,
                    width: source.width * viewport.view.zoom,
                    height: source.height * viewport.view.zoom,
                  }}
                />
              )}
            </PictureCanvas>
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
      <div className="flex justify-center">
        <LookTools viewport={viewport} size={source} aids={aids} onAids={setAids} />
      </div>
    </div>
  )
}

/** Pictures of some frames, or the difference of the first two in a kind, times a gain. */
function useBitmaps(
  source: FrameSource,
  wanted: string,
  difference: string | null,
  width: number,
  height: number,
): readonly (ImageBitmap | null)[] {
  const [bitmaps, setBitmaps] = useState<readonly (ImageBitmap | null)[]>([])
  useEffect(() => {
    if (wanted === '' || width < 2 || height < 2) return
    let current = true
    const list = wanted.split(',').map(Number)
    const draw = async () => {
      const [a = 0, b = 0] = list
      if (difference === null) return Promise.all(list.map((n) => source.bitmap(n, width, height)))
      const [gain, kind] = difference.split(' ') as [string, DifferenceKind]
      return [await source.difference(a, b, { gain: Number(gain), kind }, width, height)]
    }
    void draw().then(
      (drawn) => {
        if (current) setBitmaps(drawn)
        else for (const bitmap of drawn) bitmap.close()
      },
      (error) => {
        if (!current) return
        setBitmaps([])
        tellTrouble('The frames could not be drawn to be compared.', error)
      },
    )
    return () => {
      current = false
    }
  }, [source, wanted, difference, width, height])
  return bitmaps
}
