'use client'

import { Pencil, Sprout, Trash2 } from 'lucide-react'
import Link from 'next/link'
import { useEffect, useRef, useState } from 'react'
import { formatRate, formatSeconds, loopSeconds } from '@/core/clock'
import type { Loop } from '@/core/document'
import { changeWords } from '@/core/edit'
import { type CardVerdict, cardVerdict } from '@/store/cards'
import type { LibraryEntry } from '@/store/library/list'
import { tellTrouble } from '@/store/trouble'
import { WorkerEnded, WorkerStopped } from '@/workers/shared/client'
import { classNames, IconButton, VerdictMark } from '../parts'
import { Thumbnail } from '../playback/thumbnail'

interface CardProps {
  readonly entry: LibraryEntry
  readonly chosen: boolean
  readonly onChoose: (chosen: boolean) => void
  /** Whether new loops can begin with it. */
  readonly begins: boolean
  readonly onBegins: (begins: boolean) => void
  readonly onDelete: () => void
  /** Names of the loops that place or follow it. */
  readonly uses: readonly string[]
  readonly large: boolean
  readonly onName: () => void
}

export function LoopCard(props: CardProps) {
  const { entry, chosen, onChoose, begins, onBegins, onDelete, uses, large, onName } = props
  const { loop } = entry
  return (
    <li
      className={classNames(
        'hairline group relative overflow-hidden rounded-box border bg-base-100 focus-within:border-accent hover:border-accent',
        chosen && 'outline-2 outline-primary',
      )}
    >
      {loop ? (
        <SoundCard loop={loop} uses={uses} large={large} />
      ) : (
        <DamagedCard problem={'problem' in entry ? entry.problem : ''} />
      )}
      {loop && (
        <input
          type="checkbox"
          className={classNames(
            'checkbox checkbox-sm absolute top-2.5 left-2.5 bg-base-100/80 group-focus-within:opacity-100 group-hover:opacity-100',
            !chosen && 'opacity-0',
          )}
          aria-label={`Choose ${loop.name}`}
          checked={chosen}
          onChange={(event) => onChoose(event.target.checked)}
        />
      )}
      {loop && (
        <IconButton
          icon={Pencil}
          label={`Name and note of ${loop.name}`}
          onClick={onName}
          className="absolute top-1.5 right-16 bg-base-100/80 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
        />
      )}
      {loop && (
        <IconButton
          icon={Sprout}
          label={begins ? `No longer keep ${loop.name} to begin with` : `Keep ${loop.name} to begin with`}
          pressed={begins}
          onClick={() => onBegins(!begins)}
          className={classNames(
            'absolute top-1.5 right-9 bg-base-100/80 group-focus-within:opacity-100 group-hover:opacity-100',
            !begins && 'opacity-0',
          )}
        />
      )}
      <IconButton
        icon={Trash2}
        label={`Delete ${loop?.name ?? 'the damaged loop'}`}
        onClick={onDelete}
        className="absolute top-1.5 right-1.5 bg-base-100/80 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
      />
    </li>
  )
}

/** The verdict on a loop, as soon as it has been looked at. */
function useCardVerdict(loop: Loop, wanted: boolean): CardVerdict | null {
  const [verdict, setVerdict] = useState<CardVerdict | null>(null)
  useEffect(() => {
    setVerdict(null)
    if (!wanted) return
    let current = true
    const judge = async () => {
      // Where the worker that looks has died, another one looks.
      const judged = await cardVerdict(loop).catch((error) => {
        if (!(error instanceof WorkerEnded)) throw error
        return cardVerdict(loop)
      })
      if (current) setVerdict(judged)
    }
    judge().catch((error) => {
      tellTrouble(`The pictures of “${loop.name}” could not be looked at.`, error)
      if (current && !(error instanceof WorkerStopped)) setVerdict({ problem: 'Its pictures could not be looked at.' })
    })
    return () => {
      current = false
    }
  }, [loop, wanted])
  return verdict
}

/** px within which a large preview is drawn. */
const LARGE = { width: 640, height: 420 }

/** Names in a sentence, the first few of many. */
const few = (names: readonly string[]): string =>
  names.length <= 3 ? names.join(', ') : `${names.slice(0, 2).join(', ')} and ${names.length - 2} others`

interface SoundProps {
  readonly loop: Loop
  readonly uses: readonly string[]
  readonly large: boolean
}

function SoundCard({ loop, uses, large }: SoundProps) {
  const [near, setNear] = useState(false)
  const judged = useCardVerdict(loop, near)
  const problem = judged && 'problem' in judged ? judged.problem : null
  const box = useRef<HTMLAnchorElement>(null)
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), {
      rootMargin: '200px',
    })
    if (box.current) observer.observe(box.current)
    return () => observer.disconnect()
  }, [])
  return (
    <>
      <Link ref={box} href={`/loop/${loop.id}/compose`} prefetch={false} className="block">
        {near ? (
          <Thumbnail loop={loop} className={large ? 'h-88' : 'h-44'} {...(large && { size: LARGE })} />
        ) : (
          <div className={large ? 'h-88' : 'h-44'} />
        )}
        <div className="hairline border-t px-3 py-2">
          <div className="flex items-center justify-between gap-2">
            <h2 className="truncate font-semibold">{loop.name}</h2>
            {judged && 'verdict' in judged && <VerdictMark verdict={judged.verdict} size={14} />}
            {!judged && near && <span className="dim text-2xs">being judged …</span>}
          </div>
          <p className="dim figures">
            {loop.width} × {loop.height} · {loop.length} f at {formatRate(loop.rate)}/s ·{' '}
            <span className="whitespace-nowrap">{formatSeconds(loopSeconds(loop.length, loop.rate), 2)}</span>
          </p>
          {problem && <p className="text-2xs text-error">{problem}</p>}
          {loop.variantOf && <p className="dim text-2xs">follows another loop: {changeWords(loop.variantOf)}</p>}
        </div>
      </Link>
      {(loop.note || uses.length > 0) && (
        <div className="px-3 pb-2">
          {loop.note && <p className="line-clamp-2 text-xs">{loop.note}</p>}
          {uses.length > 0 && <p className="dim text-2xs">used in {few(uses)}</p>}
        </div>
      )}
    </>
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
