'use client'

import { useMemo } from 'react'
import { type Clock, MAX_LENGTH, toNumber } from '@/core/clock'
import { changeLayer, type Layer, type Loop } from '@/core/document'
import { centredTurn, modelOf, passesOver, shorterTurn } from '@/core/edit'
import { strobing } from '@/core/fit'
import { cameraOf, centreOfTurn, foldOfTurn, turnOf } from '@/core/layers'
import type { Model } from '@/core/media'
import { evenly, isTied, type Motion, travel } from '@/core/motion'
import { wobble } from '@/core/solid'
import { changeLoop } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { NumberField, type SeenBy, useSeen } from '../../parts'
import { ModelParts } from './model-parts'

/** Less of a wobble than this is not seen, px. */
const MIN_WOBBLE = 0.5

const SEEMS = {
  flickering: 'it will flicker',
  still: 'it will seem to stand still',
  backwards: 'it will seem to turn backwards',
  slow: 'it will seem to turn slower than it does',
} as const

/** How far a model turns within the loop, degrees, where it does so evenly; null otherwise. */
function turnedInLoop(turn: Motion | undefined): number | null {
  if (turn?.after !== 'accumulate' || !isTied(turn.period) || turn.keys.length !== 2) return null
  return travel(turn as Motion<number>) * turn.period.cycles
}

/** Notes on a turning model, each with its mends. */
export function ModelNotes({ loop, layer }: { loop: Loop; layer: Layer }) {
  const model = modelOf(loop, layer)
  if (!model) return <p className="dim pt-2 text-xs">Choose a model below, or drop a file of one.</p>
  return (
    <>
      <TurnNotes loop={loop} layer={layer} model={model} />
      <ModelParts layer={layer} model={model} />
    </>
  )
}

/** The shorter loop that a turn has, once it has been drawn, and whether it is seen to be home at its end. */
function useShorterTurn(loop: Loop, id: string) {
  const shorter = useMemo(() => shorterTurn(loop, id), [loop, id])
  const ask = useMemo(() => shorter && ((service: SeenBy) => service.comesHome(shorter.loop)), [shorter])
  const seen = useSeen(ask, 'The shorter turn could not be looked at.')
  return shorter && seen?.fresh ? { ...shorter, isSeen: seen.found } : null
}

interface NotesProps {
  readonly loop: Loop
  readonly layer: Layer
  readonly model: Model
}

function TurnNotes({ loop, layer, model }: NotesProps) {
  const { rate, length } = loop
  const free = useSession((session) => session.freeView)
  const clock: Clock = { rate, length }
  const degrees = turnedInLoop(layer.motions.turn)
  const change = (next: (each: Layer) => Layer) => changeLoop((current) => changeLayer(current, layer.id, next))
  const setTurn = (by: number) =>
    change((each) => ({
      ...each,
      motions: { ...each.motions, turn: { ...evenly(by), phase: each.motions.turn?.phase ?? 0 } },
    }))
  const turns = degrees === null ? 0 : Math.abs(degrees) / 360
  const setLength = (frames: number) =>
    changeLoop((current) => ({ ...current, length: Math.min(MAX_LENGTH, Math.max(2, Math.round(frames))) }))
  const shorter = useShorterTurn(loop, layer.id)
  const fold = foldOfTurn(layer.values)
  const strobe = degrees === null || fold === 1 ? null : strobing(degrees / length, 360 / fold)
  const { px } = wobble(
    centreOfTurn(model),
    turnOf(model, layer.values),
    cameraOf(model, layer.values),
    Number(layer.values.width),
    Number(layer.values.height),
  )
  return (
    <fieldset className="pt-2">
      <legend className="dim float-left mb-1 w-full text-2xs">How it turns</legend>
      <div className="clear-both space-y-1">
        {degrees === null ? (
          <p className="dim text-xs">
            {layer.motions.turn ? 'It turns in its own way; see the motion of turn.' : 'It stands still.'}
          </p>
        ) : (
          <>
            <NumberField
              label="turns"
              value={degrees / 360}
              unit=""
              step={1}
              context={clock}
              onChange={(next) => setTurn(360 * next)}
            />
            {turns > 0 && (
              <>
                <NumberField
                  label="turn takes"
                  value={length / turns}
                  unit="frames"
                  step={1}
                  min={2}
                  context={clock}
                  onChange={(next) => setLength(next * turns)}
                />
                <NumberField
                  label="in time"
                  value={length / toNumber(rate) / turns}
                  unit="seconds"
                  step={0.1}
                  min={0.05}
                  context={clock}
                  onChange={(next) => setLength(next * turns * toNumber(rate))}
                />
                <NumberField
                  label="each frame"
                  value={Math.abs(degrees) / length}
                  unit="°"
                  step={0.5}
                  min={0.01}
                  context={clock}
                  onChange={(next) => setLength(Math.abs(degrees) / next)}
                />
              </>
            )}
          </>
        )}
        <div className="flex flex-wrap gap-1">
          {degrees === null ? (
            <button type="button" className="btn btn-neutral btn-xs" onClick={() => setTurn(360)}>
              Turn evenly
            </button>
          ) : (
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => setTurn(-degrees)}>
              The other way
            </button>
          )}
          {shorter?.isSeen && (
            <button type="button" className="btn btn-primary btn-xs" onClick={() => changeLoop(() => shorter.loop)}>
              A loop of {shorter.length} f: 1 of {shorter.times} parts of the turn
            </button>
          )}
        </div>
        {shorter && !shorter.isSeen && (
          <p className="text-2xs text-warning" data-testid="no-shorter-turn">
            It is said to look the same after each of {shorter.times} parts of the turn, and as it is drawn it does not:
            no shorter loop is offered.
          </p>
        )}
        {strobe && strobe.looks !== 'smooth' && (
          <p className="text-2xs text-warning" data-testid="strobing">
            Each frame turns it by {Number(Math.abs(strobe.step).toFixed(2))}° of the {Number((360 / fold).toFixed(2))}°
            after which it looks the same: {SEEMS[strobe.looks]}.{' '}
            {loop.blur.shutter === 0 && (
              <button
                type="button"
                className="btn btn-neutral btn-xs"
                onClick={() => changeLoop((current) => ({ ...current, blur: { shutter: 180, samples: 8 } }))}
              >
                Blur it
              </button>
            )}
          </p>
        )}
        <p className="figures text-2xs" data-testid="wobble">
          {px < MIN_WOBBLE ? (
            degrees !== null && <span className="text-accent">It turns in its place.</span>
          ) : (
            <span className="text-error">Its centre wobbles by {px.toFixed(1)} px. </span>
          )}
        </p>
        {px >= MIN_WOBBLE && (
          <button
            type="button"
            className="btn btn-neutral btn-xs"
            onClick={() => change((each) => centredTurn(each, model))}
          >
            Centre it
          </button>
        )}
        <div className="flex flex-wrap gap-1 pt-1">
          <button
            type="button"
            className="btn btn-neutral btn-xs"
            aria-pressed={free}
            onClick={() => setSession({ freeView: !free })}
          >
            Look round it
          </button>
          <button
            type="button"
            className="btn btn-neutral btn-xs"
            onClick={() => {
              let ids: readonly string[] = []
              changeLoop((current) => {
                const made = passesOver(current, layer.id)
                ids = made?.ids ?? []
                return made?.loop ?? current
              })
              if (ids.length > 0) setSession({ selection: [layer.id, ...ids] })
            }}
          >
            Occlusion and lines over it
          </button>
        </div>
      </div>
    </fieldset>
  )
}
