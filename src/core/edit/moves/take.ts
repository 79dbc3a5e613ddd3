import { boundNumber } from '../../bounds'
import { type Clock, toNumber } from '../../clock'
import { changeLayer, findLayer, type Layer, type Loop } from '../../document'
import { clampToRange, layerKind, type PropertyValue } from '../../layers'
import { fractionalPart } from '../../modulo'
import type { Motion } from '../../motion'
import { setEvent, setMotion, setTremble } from '../keys'
import { MOVES, type Move, type Track } from './moves'

/** Settings for a move; those left out are the move's own. */
export interface MoveWanted {
  readonly name: string
  /** How far it goes, in the unit of the move. */
  readonly far?: number
  /** Whole cycles in the loop; of steps, whole rounds. */
  readonly cycles?: number
  /** Where in its cycle it starts, 0 … 1. */
  readonly phase?: number
  /** How much later each of several layers is than the one before it, in cycles. */
  readonly stagger?: number
}

/** @throws RangeError for an unknown name */
export function moveNamed(name: string): Move {
  const move = MOVES.find((each) => each.name === name)
  if (!move) throw new RangeError(`there is no motion to take called “${name}”`)
  return move
}

const propertyOf = (layer: Layer, { property }: Track): string | undefined =>
  (typeof property === 'string' ? [property] : property).find((name) => layerKind(layer.kind).properties[name]?.moves)

/** A sentence about what the layer lacks for a move; null if it can be taken. */
export function lackingFor(layer: Layer, move: Move): string | null {
  const { properties } = layerKind(layer.kind)
  if (move.needs && (layer.values[move.needs.property] ?? null) === null)
    return `“${layer.name}” needs ${move.needs.words} first.`
  const single = [move.event?.property, move.tremble?.property].filter((name) => name !== undefined)
  const can =
    (move.tracks ?? []).every((track) => propertyOf(layer, track)) && single.every((name) => properties[name]?.moves)
  return can ? null : `“${layer.name}” has nothing that could ${move.label.toLowerCase()}.`
}

/** How far a move goes on a layer to begin with. */
export function farFor(layer: Layer, { far }: Move): number {
  if (!far) return 0
  const measure = far.times ? Number(layer.values[far.times] ?? layer.values.length ?? layer.values.radius ?? 100) : 1
  return Number((far.begins * measure).toFixed(2))
}

/** Number of cycles that come home together: for steps, a whole round. */
const roundOf = (move: Move, far: number): number => (move.far?.unit === 'steps' ? Math.max(1, Math.round(far)) : 1)
const inRounds = (cycles: number, round: number): number => Math.max(1, Math.round(cycles / round)) * round

/** Whole cycles of a move in a loop: what comes nearest to its own time; of steps, whole rounds. */
export function cyclesFor(loop: Clock, move: Move, far: number): number {
  return inRounds(loop.length / toNumber(loop.rate) / move.seconds, roundOf(move, far))
}

/** A property as a track moves it. */
function motionOf(layer: Layer, name: string, track: Track, far: number, cycles: number, phase: number): Motion {
  const property = layerKind(layer.kind).properties[name]
  const base = Number(layer.values[name] ?? 0)
  const unit =
    'far' in track.by ? far * track.by.far : 'round' in track.by ? track.by.round / (far || 1) : track.by.fixed
  const moved = (share: number): number => {
    const value =
      track.as === 'itself' ? share * unit : track.as === 'times' ? base * (1 + share * unit) : base + share * unit
    // A motion that carries on leaves every range in the end; only its look comes home.
    return track.after === 'accumulate' || !property
      ? boundNumber(value)
      : Number(clampToRange(property, boundNumber(value) as PropertyValue))
  }
  return {
    keys: track.keys.map(([at, share, ease]) => ({ at, value: moved(share), ease })),
    after: track.after,
    period: { cycles },
    phase: fractionalPart(phase + (track.phase ?? 0)),
  }
}

/** A layer with a move, about the values that it has. */
function withMove(layer: Layer, move: Move, far: number, cycles: number, phase: number, seed: number): Layer {
  let made = layer
  for (const track of move.tracks ?? []) {
    const name = propertyOf(layer, track)
    if (name) made = setMotion(made, name, motionOf(layer, name, track, far, cycles, phase))
  }
  if (move.event) {
    const { property, value, at } = move.event
    const places = at.map((place) => fractionalPart(place - phase))
    made = setEvent(made, property, { value, frames: Math.max(1, Math.round(far)), at: places, cycles })
  }
  if (move.tremble) {
    const { property, detail } = move.tremble
    made = setTremble(made, property, { amount: far, detail, cycles, seed, phase })
  }
  return made
}

/**
 * The loop with a move taken on layers, one after the other a little later where they are staggered; those that cannot take it stay as they are.
 * Taken once more with other numbers, it is as if it had been taken so at first.
 * @throws RangeError for an unknown name
 */
export function takeMove(loop: Loop, ids: readonly string[], wanted: MoveWanted): Loop {
  const move = moveNamed(wanted.name)
  let made = loop
  for (const [n, id] of ids.entries()) {
    const layer = findLayer(loop, id)
    if (!layer || lackingFor(layer, move)) continue
    const far = wanted.far ?? farFor(layer, move)
    const cycles =
      wanted.cycles === undefined ? cyclesFor(loop, move, far) : inRounds(wanted.cycles, roundOf(move, far))
    const phase = fractionalPart((wanted.phase ?? 0) - n * (wanted.stagger ?? 0))
    made = changeLayer(made, id, (each) => withMove(each, move, far, cycles, phase, n + 1))
  }
  return made
}
