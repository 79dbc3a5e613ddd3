'use client'

import { proxy } from 'comlink'
import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { exchangeMedium } from '@/core/edit'
import { keepAtHand, picturesOf } from '@/core/media'
import { type Axis, HEALS, type Heal, usualBand } from '@/core/texture'
import { changeLoop, currentLoop } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import type { HealTry } from '@/workers/inside/heal.worker'
import { healClient, lastingService } from '@/workers/page/clients'
import { WorkerStopped } from '@/workers/shared/client'
import { Dialog, NumberField } from '../parts'
import { EdgeWords } from './edge-words'

/** The worker that heals, while its dialog is open. */
const healer = lastingService(healClient)

/** Heals the edges of a picture or clip of the open loop: three ways beside each other, each with what it leaves. */
export function HealDialog() {
  const id = useSession((session) => session.healing)
  const close = () => {
    healer.end()
    setSession({ healing: null })
  }
  return (
    <Dialog title="Heal the edges of a tile" open={id !== null} onClose={close} wide>
      {id !== null && <Ways key={id} id={id} onDone={close} />}
    </Dialog>
  )
}

const WORDS: Readonly<Record<Heal, string>> = {
  blend: 'By blending: its ends are mixed over the band. For clouds, sand, water.',
  cut: 'By cutting: its ends are parted where they differ least. For leaves, stones, planks.',
  fill: 'By filling: what lies about the edge is laid anew from the picture. Keeps its size.',
}

type Looked = Omit<HealTry, 'by'>

function Ways({ id, onDone }: { id: string; onDone: () => void }) {
  const [before, setBefore] = useState<Looked | null>(null)
  const [tries, setTries] = useState<Partial<Record<Heal, HealTry | string>>>({})
  const [axes, setAxes] = useState<readonly Axis[] | null>(null)
  const [band, setBand] = useState<number | null>(null)
  const [done, setDone] = useState<{ readonly pictures: number; readonly of: number } | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const clock = currentLoop() ?? { rate: { num: 25, den: 1 }, length: 1 }
  const medium = currentLoop()?.media.find((each) => each.id === id)

  useEffect(() => {
    const loop = currentLoop()
    if (!loop) return
    let current = true
    healer
      .ask(async ({ service }) => service.look(loop, id))
      .then(
        (looked) => {
          if (!current) return
          setBefore(looked)
          setAxes((['x', 'y'] as const).filter((axis) => looked.report[axis].verdict !== 'closes'))
        },
        (error: Error) => {
          if (current && !(error instanceof WorkerStopped)) setProblem(error.message)
        },
      )
    return () => {
      current = false
    }
  }, [id])

  useEffect(() => {
    const loop = currentLoop()
    if (!loop || !axes || axes.length === 0) return
    let current = true
    setTries({})
    const attempts = async () => {
      for (const by of HEALS) {
        const found = await healer
          .ask(async ({ service }) => service.attempt(loop, id, axes, by, band))
          .catch((error: Error) => {
            if (error instanceof WorkerStopped) return null
            return error.message
          })
        if (!current || found === null) return
        setTries((known) => ({ ...known, [by]: found }))
      }
    }
    void attempts()
    return () => {
      current = false
    }
  }, [id, axes, band])

  const take = async (by: Heal) => {
    const loop = currentLoop()
    if (!loop || !axes || !medium) return
    const count = picturesOf([medium]).length
    setDone({ pictures: 0, of: count })
    try {
      const progress = proxy((pictures: number) => setDone({ pictures, of: count }))
      const healed = await healer.ask(async ({ service }) => service.heal(loop, id, axes, by, band, progress))
      setDone(null)
      if (!healed) return
      keepAtHand(healed.files)
      changeLoop((current) => exchangeMedium(current, healed.medium))
      toast.success(`${medium.name} is healed.`, {
        description: `It is kept ${healed.how}. Undo brings it back as it was.`,
      })
      onDone()
    } catch (error) {
      setDone(null)
      if (!(error instanceof WorkerStopped)) setProblem((error as Error).message)
    }
  }
  if (problem) return <p role="alert">{problem}</p>
  if (!before || !axes || !medium) return <p className="dim">Looking at its edges …</p>
  const toggle = (axis: Axis) =>
    setAxes(
      axes.includes(axis)
        ? axes.filter((each) => each !== axis)
        : (['x', 'y'] as const).filter((each) => each === axis || axes.includes(each)),
    )
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <span className="font-semibold">{medium.name}</span>
        <EdgeWords axis="x" edge={before.report.x} />
        <EdgeWords axis="y" edge={before.report.y} />
        {(['x', 'y'] as const).map((axis) => (
          <label key={axis} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={axes.includes(axis)}
              onChange={() => toggle(axis)}
            />
            heal {axis === 'x' ? 'across' : 'down'}
          </label>
        ))}
        <div className="w-44">
          <NumberField
            label="band"
            value={band ?? usualBand(Math.min(before.width, before.height))}
            unit="px"
            step={1}
            min={2}
            max={Math.floor(Math.min(before.width, before.height) / 2)}
            whole
            context={clock}
            onChange={setBand}
          />
        </div>
      </div>
      <p className="dim text-xs">Each picture is shifted by half its size, so that its edges meet in the middle.</p>
      {axes.length === 0 && <p>It closes already in the directions that are chosen: there is nothing to heal.</p>}
      <div className="grid grid-cols-4 gap-3">
        <Preview title="As it is" looked={before} />
        {axes.length > 0 &&
          HEALS.map((by) => {
            const found = tries[by]
            return (
              <div key={by} className="flex min-w-0 flex-col gap-1.5">
                {found === undefined ? (
                  <p className="dim flex-1">Being tried …</p>
                ) : typeof found === 'string' ? (
                  <p className="flex-1">{found}</p>
                ) : (
                  <Preview title={WORDS[by]} looked={found} />
                )}
                <button
                  type="button"
                  className="btn btn-neutral btn-sm"
                  disabled={typeof found !== 'object' || done !== null}
                  onClick={() => void take(by)}
                >
                  Heal by {by === 'blend' ? 'blending' : by === 'cut' ? 'cutting' : 'filling'}
                </button>
              </div>
            )
          })}
      </div>
      {done && (
        <div className="flex items-center gap-3" role="status">
          <progress className="progress progress-accent flex-1" value={done.pictures} max={done.of} />
          <span className="figures">
            {done.pictures} of {done.of}
          </span>
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            onClick={() => void healer.ask(async ({ service }) => service.stop()).catch(() => {})}
          >
            Cancel
          </button>
        </div>
      )}
    </div>
  )
}

function Preview({ title, looked }: { title: string; looked: Looked }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { bitmap, report, width, height } = looked
  useEffect(() => {
    canvas.current?.getContext('2d')?.drawImage(bitmap, 0, 0)
  }, [bitmap])
  return (
    <figure className="flex min-w-0 flex-1 flex-col gap-1">
      <canvas ref={canvas} width={width} height={height} className="hairline w-full border bg-base-200" />
      <figcaption className="flex flex-1 flex-col text-xs">
        <span className="flex-1">{title}</span>
        <EdgeWords axis="x" edge={report.x} />
        <EdgeWords axis="y" edge={report.y} />
        <span className="dim figures">
          {width} × {height} px
        </span>
      </figcaption>
    </figure>
  )
}
