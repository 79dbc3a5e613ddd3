'use client'

import { Trash2 } from 'lucide-react'
import Link from 'next/link'
import { useEffect, useMemo, useRef, useState } from 'react'
import { formatRate, formatSeconds, loopSeconds, toNumber } from '@/core/clock'
import { checkMotions, type Loop } from '@/core/loop'
import { judgeLoop } from '@/core/seam'
import type { LibraryEntry } from '@/store/library'
import { renderClient } from '@/workers/clients'
import { IconButton, VerdictMark } from '../parts'

const WIDTH = 320
const HEIGHT = 200
/** Ceiling of one thumbnail's frames, bytes. */
const CEILING = 24 * 1024 * 1024

/** Plays a loop on a small canvas at its own rate while it is in view; still where less motion is asked for. */
function Thumbnail({ loop }: { loop: Loop }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const scale = Math.min(WIDTH / loop.width, HEIGHT / loop.height)
  const width = Math.max(1, Math.round(loop.width * scale))
  const height = Math.max(1, Math.round(loop.height * scale))

  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches
    const client = renderClient()
    const every = Math.max(1, Math.ceil((loop.length * width * height * 4) / CEILING))
    const frames: ImageBitmap[] = []
    let ended = false
    let request = 0
    let shown = -1
    let visible = true
    const observer = new IntersectionObserver(([entry]) => {
      visible = entry?.isIntersecting ?? true
    })
    observer.observe(context.canvas)
    const show = (frame: ImageBitmap | undefined) => {
      if (!frame) return
      context.clearRect(0, 0, width, height)
      context.drawImage(frame, 0, 0)
    }
    const draw = async () => {
      await client.service.setLoop(loop)
      for (let n = 0; n < (still ? 1 : loop.length) && !ended; n += every) {
        const bitmap = await client.service.frame(n, width, height)
        if (ended) return bitmap.close()
        frames.push(bitmap)
        if (n === 0) show(bitmap)
      }
      client.end()
    }
    const play = (now: number) => {
      const n = Math.floor((((now / 1000) * toNumber(loop.rate)) % loop.length) / every)
      if (visible && n !== shown && n < frames.length) {
        show(frames[n])
        shown = n
      }
      request = requestAnimationFrame(play)
    }
    void draw()
    if (!still) request = requestAnimationFrame(play)
    return () => {
      ended = true
      cancelAnimationFrame(request)
      observer.disconnect()
      client.end()
      for (const frame of frames) frame.close()
    }
  }, [loop, width, height])

  return (
    <div
      className={`flex h-44 items-center justify-center ${loop.background === null ? 'weave' : ''}`}
      style={loop.background ? { background: loop.background } : undefined}
    >
      <canvas ref={canvas} width={width} height={height} className="max-h-full max-w-full" aria-hidden="true" />
    </div>
  )
}

export function LoopCard({ entry, onDelete }: { entry: LibraryEntry; onDelete: () => void }) {
  const { loop } = entry
  return (
    <li className="hairline group relative overflow-hidden rounded-box border bg-base-100 focus-within:border-accent hover:border-accent">
      {loop ? <SoundCard loop={loop} /> : <DamagedCard problem={'problem' in entry ? entry.problem : ''} />}
      <IconButton
        icon={Trash2}
        label={`Delete ${loop?.name ?? 'the damaged loop'}`}
        onClick={onDelete}
        className="absolute top-1.5 right-1.5 bg-base-100/80 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
      />
    </li>
  )
}

function SoundCard({ loop }: { loop: Loop }) {
  const verdict = useMemo(() => judgeLoop(loop, checkMotions(loop), null).verdict, [loop])
  const [near, setNear] = useState(false)
  const box = useRef<HTMLAnchorElement>(null)
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), {
      rootMargin: '200px',
    })
    if (box.current) observer.observe(box.current)
    return () => observer.disconnect()
  }, [])
  return (
    <Link ref={box} href={`/loop/${loop.id}/compose`} className="block">
      {near ? <Thumbnail loop={loop} /> : <div className="h-44" />}
      <div className="hairline border-t px-3 py-2">
        <div className="flex items-center justify-between gap-2">
          <h2 className="truncate font-semibold">{loop.name}</h2>
          <VerdictMark verdict={verdict} size={14} />
        </div>
        <p className="dim figures">
          {loop.width} × {loop.height} · {loop.length} f at {formatRate(loop.rate)}/s ·{' '}
          {formatSeconds(loopSeconds(loop.length, loop.rate), 2)}
        </p>
      </div>
    </Link>
  )
}

function DamagedCard({ problem }: { problem: string }) {
  return (
    <div className="p-3">
      <h2 className="font-semibold text-error">Damaged loop</h2>
      <p className="dim mt-1">{problem}</p>
      <p className="dim mt-1">It is kept as it is until you delete it.</p>
    </div>
  )
}
