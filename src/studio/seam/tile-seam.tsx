'use client'

import dynamic from 'next/dynamic'
import { useEffect, useRef, useState } from 'react'
import { type Loop, places, referencesOf } from '@/core/document'
import { mediumKind } from '@/core/media'
import type { FrameEdge, FrameEdges } from '@/core/texture'
import { setSession } from '@/store/session'
import { tellTrouble } from '@/store/trouble'
import { WorkerStopped } from '@/workers/shared/client'
import { Choices, useRoom, VerdictMark } from '../parts'
import type { FrameSource } from './compare'

const StepChart = dynamic(() => import('./step-chart').then((module) => module.StepChart), { ssr: false })

export type Direction = 'x' | 'y'

/** Frames are judged anew after this much time without a change, ms. */
const QUIET_MS = 200

/**
 * How frames meet themselves, asked for when nothing has changed for a while; undefined while they are looked at, null where they are too small to
 * tell. `look` must stay the same while nothing changes; null asks nothing.
 */
export function useTile(look: (() => Promise<FrameEdges | null>) | null): FrameEdges | null | undefined {
  const [found, setFound] = useState<FrameEdges | null | undefined>(undefined)
  useEffect(() => {
    if (!look) return
    let current = true
    const waiting = setTimeout(() => {
      look().then(
        (edges) => current && setFound(edges),
        (error) => {
          if (current && !(error instanceof WorkerStopped))
            tellTrouble('The edges of the frame could not be looked at.', error)
        },
      )
    }, QUIET_MS)
    return () => {
      current = false
      clearTimeout(waiting)
    }
  }, [look])
  return found
}

/** The directions in which a seam is looked for, and whether a frame is moved on by half. */
export function SeamDirections({ seam, onSeam }: { seam: number; onSeam: (seam: number) => void }) {
  return <Choices label="Seam" options={['in time', 'across', 'down']} chosen={seam} onChoose={onSeam} />
}

export const seamDirection = (seam: number): Direction | null => ([null, 'x', 'y'] as const)[seam] ?? null

export function Shifted({ shifted, onChange }: { shifted: boolean; onChange: (shifted: boolean) => void }) {
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        className="toggle toggle-xs"
        checked={shifted}
        onChange={(event) => onChange(event.target.checked)}
      />
      shifted by half
    </label>
  )
}

interface TileSeamProps {
  readonly source: FrameSource
  readonly direction: Direction
  readonly found: FrameEdges | null | undefined
  /** Whether the frame is moved on by half, so that its edges meet in its middle. */
  readonly shifted: boolean
}

/** A frame and its edge with itself, moved to the middle, and how much each line differs from the next. */
export function TileSeam({ source, direction, found, shifted }: TileSeamProps) {
  const edge = found?.[direction]
  const [line, setLine] = useState<number | null>(null)
  return (
    <>
      <TilePicture
        source={source}
        frame={edge?.frame ?? 0}
        direction={direction}
        shifted={shifted}
        line={line}
        lines={edge?.steps.length ?? 1}
      />
      <section
        className="hairline min-h-0 border-t bg-base-100"
        aria-label={direction === 'x' ? 'Steps from column to column' : 'Steps from row to row'}
      >
        {edge ? (
          <StepChart
            steps={edge.steps}
            fault={edge.verdict === 'closes' ? null : edge.steps.length - 1}
            naming={false}
            label={`Steps from ${direction === 'x' ? 'column to column' : 'row to row'}: edge ${edge.step.toFixed(4)}, inside up to ${edge.expected.toFixed(4)}, ${edge.steps.length} in all`}
            onFrame={setLine}
            onPoint={setLine}
          />
        ) : (
          <p className="dim p-3">
            {found === null
              ? `A frame of ${source.width} × ${source.height} px is too small to tell.`
              : 'Looking at the edges …'}
          </p>
        )}
      </section>
    </>
  )
}

interface TilePictureProps {
  readonly source: FrameSource
  readonly frame: number
  readonly direction: Direction
  readonly shifted: boolean
  /** The line that is pointed at. */
  readonly line: number | null
  readonly lines: number
}

function TilePicture({ source, frame, direction, shifted, line, lines }: TilePictureProps) {
  const { box, ...room } = useRoom()
  const canvas = useRef<HTMLCanvasElement>(null)
  const fit = Math.max(0.02, Math.min((room.width - 48) / source.width, (room.height - 48) / source.height))
  const width = Math.max(1, Math.round(source.width * fit))
  const height = Math.max(1, Math.round(source.height * fit))
  const across = shifted && direction === 'x' ? Math.round(width / 2) : 0
  const down = shifted && direction === 'y' ? Math.round(height / 2) : 0
  useEffect(() => {
    let current = true
    source.bitmap(frame, width, height).then(
      (bitmap) => {
        const context = current ? canvas.current?.getContext('2d') : null
        if (context) {
          context.clearRect(0, 0, width, height)
          for (const dx of [across - width, across])
            for (const dy of [down - height, down]) context.drawImage(bitmap, dx, dy, width, height)
        }
        bitmap.close()
      },
      (error) => {
        if (current && !(error instanceof WorkerStopped)) tellTrouble('The frame could not be drawn.', error)
      },
    )
    return () => {
      current = false
    }
  }, [source, frame, width, height, across, down])
  const place = line === null ? null : (((line + 1) / lines + (across || down ? 0.5 : 0)) % 1) * 100
  return (
    <div ref={box} className="relative flex min-h-0 min-w-0 items-center justify-center overflow-hidden bg-base-200">
      <figure className="relative" style={{ width, height }}>
        <canvas
          ref={canvas}
          width={width}
          height={height}
          className={source.transparent ? 'weave' : ''}
          role="img"
          aria-label={`Frame ${frame}${shifted ? ', shifted by half: its edges meet in the middle' : ''}`}
        />
        {shifted && <EdgeMark direction={direction} at={50} className="border-primary" />}
        {place !== null && <EdgeMark direction={direction} at={place} className="border-accent" />}
        <figcaption className="dim figures absolute top-full mt-1 whitespace-nowrap text-2xs">
          frame {frame}
          {shifted ? ', shifted by half: its edge is in the middle' : ''}
        </figcaption>
      </figure>
    </div>
  )
}

/** Two ticks beside the picture, which leave the edge itself to be seen. */
const EdgeMark = ({ direction, at, className }: { direction: Direction; at: number; className: string }) =>
  direction === 'x' ? (
    <>
      <span className={`absolute -top-2.5 h-2 border-s ${className}`} style={{ left: `${at}%` }} />
      <span className={`absolute -bottom-2.5 h-2 border-s ${className}`} style={{ left: `${at}%` }} />
    </>
  ) : (
    <>
      <span className={`absolute -left-2.5 w-2 border-t ${className}`} style={{ top: `${at}%` }} />
      <span className={`absolute -right-2.5 w-2 border-t ${className}`} style={{ top: `${at}%` }} />
    </>
  )

interface TileFindingsProps {
  readonly direction: Direction
  readonly found: FrameEdges | null | undefined
  /** Controls. */
  readonly children: React.ReactNode
}

/** The verdict on an edge of the frame, why, and what can be done. */
export function TileFindings({ direction, found, children }: TileFindingsProps) {
  const edge = found?.[direction]
  if (!edge)
    return <p className="dim">{found === null ? 'The frame is too small to tell.' : 'Looking at the edges …'}</p>
  const closes = edge.verdict === 'closes'
  const [way, line] = direction === 'x' ? ['across', 'column'] : ['down', 'row']
  return (
    <>
      <div className="text-lg">
        <VerdictMark verdict={closes ? 'closes' : 'jumps'} word={closes ? 'closes' : 'shows an edge'} size={22} />
      </div>
      <p className="mt-2">
        {closes
          ? `Laid beside itself ${way}, the frame goes on: its edge is a ${line} like the others.`
          : `Laid beside itself ${way}, the frame shows where it ends: the step across its edge is ${edge.ratio.toFixed(1)} times what the ${line}s inside let expect.`}
      </p>
      <dl className="figures mt-3 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
        <dt className="dim">step at the edge</dt>
        <dd>{edge.step.toFixed(4)}</dd>
        <dt className="dim">inside, up to</dt>
        <dd>{edge.expected.toFixed(4)}</dd>
        <dt className="dim">ratio</dt>
        <dd>{edge.ratio.toFixed(2)}</dd>
        <dt className="dim">worst frame</dt>
        <dd>{edge.frame}</dd>
      </dl>
      <p className="dim mt-2 text-xs">
        A step is how much one {line} differs from the next, in OKLab. A few frames are looked at.
      </p>
      {children}
    </>
  )
}

/** The pictures of a loop that can be healed; in words what else can be done where an edge shows and there are none. */
export function Mendable({ loop, found }: { loop: Loop; found: FrameEdge | undefined }) {
  const shown = new Set([...places(loop.layers)].flatMap(({ layer }) => referencesOf(layer).map(({ id }) => id)))
  const mendable = loop.media.filter(({ id, kind }) => shown.has(id) && mediumKind(kind).withPictures)
  if (mendable.length === 0)
    return found?.verdict === 'shows-an-edge' ? (
      <p className="mt-3">
        Textures, particles and patterns tile by themselves where they are as large as the frame, not turned, and drift
        by whole tiles. What is drawn across an edge must be drawn on the other side, too.
      </p>
    ) : null
  return (
    <>
      <h2 className="mt-5 mb-1 text-xs font-semibold">Pictures that can be healed</h2>
      <ul className="space-y-1">
        {mendable.map(({ id, name }) => (
          <li key={id}>
            <button
              type="button"
              className="btn btn-neutral btn-sm w-full font-normal"
              onClick={() => setSession({ healing: id })}
            >
              <span className="truncate">Heal “{name}” …</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  )
}
