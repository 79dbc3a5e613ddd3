import { median } from '../../statistics'
import { type Grey, sample } from '../look/grey'
import type { Sizes } from './sizes'
import { solved } from './solve'
import { composed, inverseView, movedBy, SAME_VIEW, type SceneView } from './view'

/** How a camera may have moved: along the picture; with turn and zoom besides; or about itself in depth. */
export const CAMERA_MODELS = ['shift', 'similarity', 'perspective'] as const
export type CameraModel = (typeof CAMERA_MODELS)[number]

/** At most this many places of a picture are tracked in each of its sizes. */
const MAX_PLACES = 5000
/** A place can be located if the light around it changes by at least this, of 255 per px. */
const MIN_GRADIENT = 2
/** Steps at each size, and how little the last is to move anything, px. */
const MAX_STEPS = 12
const MIN_STEP_PX = 0.002
/**
 * Differences below this are grain, of 255. From this multiple of the usual difference on, a place does not belong to
 * the still scene (Tukey's biweight).
 */
const GRAIN = 3
const BIWEIGHT_LIMIT = 4.685 * 1.4826
/** Differences above the first are odd in any case; below the second a place agrees. */
const MAX_RESIDUAL = 60
const AGREEING_RESIDUAL = 12
/** A place with a residual above this, root mean square over the pictures, does not lie still. */
const UNSETTLED_RESIDUAL = 9
const MIN_SETTLED = 0.05

type Four = readonly [number, number, number, number]
type Eight = readonly [...Four, ...Four]

/** How many numbers a model has, and which view small ones of them are. */
const MODELS: Readonly<
  Record<CameraModel, { readonly numbers: number; readonly view: (by: Float64Array) => SceneView }>
> = {
  shift: {
    numbers: 2,
    view: (by) => {
      const [x, y] = by as unknown as Four
      return [1, 0, x, 0, 1, y, 0, 0, 1]
    },
  },
  similarity: {
    numbers: 4,
    view: (by) => {
      const [x, y, zoom, turn] = by as unknown as Four
      return [1 + zoom, -turn, x, turn, 1 + zoom, y, 0, 0, 1]
    },
  },
  perspective: {
    numbers: 8,
    view: (by) => {
      const [x, y, a, b, d, e, g, h] = by as unknown as Eight
      return [1 + a, b, x, d, 1 + e, y, g, h, 1]
    },
  },
}

/** By how much the light at a place changes with each number of a model, where it changes by gx and gy. */
function putChanges(model: CameraModel, x: number, y: number, gx: number, gy: number, into: Float64Array): void {
  into[0] = gx
  into[1] = gy
  if (model === 'similarity') {
    into[2] = gx * x + gy * y
    into[3] = gy * x - gx * y
  } else if (model === 'perspective') {
    into[2] = gx * x
    into[3] = gx * y
    into[4] = gy * x
    into[5] = gy * y
    into[6] = -(gx * x + gy * y) * x
    into[7] = -(gx * x + gy * y) * y
  }
}

/** Places of a picture that tell where they lie, with what they hold: the strongest of each part of it, so that no one thing outvotes the rest. */
interface Places {
  readonly grey: Grey
  readonly count: number
  readonly x: Float32Array
  readonly y: Float32Array
  readonly value: Float32Array
  /** Changes with each number of the model, one place after the other. */
  readonly changes: Float64Array
  /** How far each was off in the pictures that were found, squared and summed, and in how many; and how much it counts for that. */
  readonly off: Float64Array
  readonly found: Uint16Array
  readonly counts: Float64Array
}

const PARTS = { across: 8, down: 5 }

function placesOf(grey: Grey, model: CameraModel): Places {
  const { width, height, data } = grey
  const slope = (x: number, y: number) => {
    const at = y * width + x
    return [(data[at + 1] - data[at - 1]) / 2, (data[at + width] - data[at - width]) / 2] as const
  }
  const each = Math.ceil(MAX_PLACES / (PARTS.across * PARTS.down))
  const chosen: { readonly x: number; readonly y: number; readonly by: number }[] = []
  for (let part = 0; part < PARTS.across * PARTS.down; part++) {
    const px = part % PARTS.across
    const py = Math.floor(part / PARTS.across)
    const [x0, x1] = [px, px + 1].map((at) => Math.round((at * width) / PARTS.across)) as [number, number]
    const [y0, y1] = [py, py + 1].map((at) => Math.round((at * height) / PARTS.down)) as [number, number]
    const own: { x: number; y: number; by: number }[] = []
    for (let y = Math.max(1, y0); y < Math.min(height - 1, y1); y++)
      for (let x = Math.max(1, x0); x < Math.min(width - 1, x1); x++) {
        const [gx, gy] = slope(x, y)
        const by = gx * gx + gy * gy
        if (by >= MIN_GRADIENT * MIN_GRADIENT) own.push({ x, y, by })
      }
    own.sort((a, b) => b.by - a.by)
    chosen.push(...own.slice(0, each))
  }
  const { numbers } = MODELS[model]
  const count = chosen.length
  const places = {
    grey,
    count,
    x: new Float32Array(count),
    y: new Float32Array(count),
    value: new Float32Array(count),
    changes: new Float64Array(count * numbers),
    off: new Float64Array(count),
    found: new Uint16Array(count),
    counts: new Float64Array(count).fill(1),
  }
  for (const [n, { x, y }] of chosen.entries()) {
    const [gx, gy] = slope(x, y)
    const nx = (x + 0.5 - width / 2) / width
    const ny = (y + 0.5 - height / 2) / width
    places.x[n] = nx
    places.y[n] = ny
    places.value[n] = data[y * width + x]
    putChanges(model, nx, ny, gx * width, gy * width, places.changes.subarray(n * numbers, (n + 1) * numbers))
  }
  return places
}

/** How a picture was found to lie. */
export interface Alignment {
  readonly view: SceneView
  /** The share of the places that tell anything which agree, 0 … 1. */
  readonly agrees: number
}

/** With fewer places than this, nothing can be located. */
const MIN_PLACES = 40

/**
 * Finds how pictures lie against one that stands: the inverse compositional algorithm (Baker & Matthews 2004) from coarse to fine, each place weighted by
 * how well it agrees, and all of them by the light of the whole.
 */
export class Aligner {
  private readonly levels: readonly Places[]

  /** @param standing what others are aligned to */
  constructor(
    standing: Sizes,
    readonly model: CameraModel,
  ) {
    this.levels = standing.map((grey) => placesOf(grey, model))
  }

  /** The first of the sizes at which a picture is looked for that is nearly found. */
  get coarsestNear(): number {
    return Math.max(0, this.levels.length - 2)
  }

  /**
   * Where the places of the standing picture lie in another.
   * @param from where they are thought to lie
   * @param coarsest the first of the sizes at which they are looked for, and `finest` the last
   */
  find(other: Sizes, from: SceneView = SAME_VIEW, coarsest = 0, finest = this.levels.length - 1): Alignment {
    let found: Alignment = { view: from, agrees: 0 }
    for (const [level, places] of this.levels.entries())
      if (level >= coarsest && level <= finest && places.count >= MIN_PLACES)
        found = this.refine(places, other[level], found.view)
    return found
  }

  /**
   * From now on, places with large residuals in the pictures located until now weigh less: what never lies still, such
   * as water, no longer leads the others astray.
   */
  settle(): void {
    for (const { off, found, counts } of this.levels) {
      const settled = counts.map((_, n) =>
        found[n] > 0 ? (1 + off[n] / found[n] / (UNSETTLED_RESIDUAL * UNSETTLED_RESIDUAL)) ** -4 : 1,
      )
      // Where hardly any lie still, they are not told from the rest.
      if (settled.filter((by) => by > 0.5).length >= Math.max(MIN_PLACES, MIN_SETTLED * counts.length))
        counts.set(settled)
    }
  }

  private refine(places: Places, other: Grey, from: SceneView): Alignment {
    const { count, value, changes, counts } = places
    const { numbers, view: viewOf } = MODELS[this.model]
    const { width, height } = other
    const seen = new Float32Array(count)
    const inside = new Uint8Array(count)
    const off = new Float32Array(count)
    const square = new Float64Array(numbers * numbers)
    const right = new Float64Array(numbers)
    let view = from
    let agrees = 0
    for (let step = 0; step < MAX_STEPS; step++) {
      const within = look(places, other, view, seen, inside)
      if (within < MIN_PLACES) return { view: from, agrees: 0 }
      const some: number[] = []
      const every = Math.max(1, Math.floor(count / 1000))
      const light = lightOf(value, seen, inside)
      for (let n = 0; n < count; n++) {
        off[n] = (seen[n] - light.besides) / light.times - value[n]
        if (inside[n] && n % every === 0) some.push(Math.abs(off[n]))
      }
      const bound = Math.min(MAX_RESIDUAL, BIWEIGHT_LIMIT * Math.max(GRAIN / 2, median(some)))
      square.fill(0)
      right.fill(0)
      let agreeing = 0
      for (let n = 0; n < count; n++) {
        const share = off[n] / bound
        if (!inside[n] || Math.abs(share) >= 1) continue
        if (Math.abs(off[n]) < AGREEING_RESIDUAL) agreeing++
        const weight = counts[n] * (1 - share * share) ** 2
        const at = n * numbers
        for (let i = 0; i < numbers; i++) {
          const own = weight * changes[at + i]
          right[i] += own * off[n]
          for (let j = i; j < numbers; j++) square[i * numbers + j] += own * changes[at + j]
        }
      }
      agrees = agreeing / count
      const by = solved(square, right, numbers)
      if (!by) return { view, agrees: 0 }
      const small = viewOf(by)
      view = composed(view, inverseView(small))
      if (movedBy(small, height / width) * width < MIN_STEP_PX) break
    }
    for (let n = 0; n < count; n++) {
      if (!inside[n]) continue
      places.off[n] += Math.min(MAX_RESIDUAL, Math.abs(off[n])) ** 2
      places.found[n] += 1
    }
    return { view, agrees }
  }
}

/** Looks up what a picture holds where a view has each place. @returns how many lie within it */
function look(places: Places, other: Grey, view: SceneView, seen: Float32Array, inside: Uint8Array): number {
  const { width, height } = other
  const [a, b, c, d, e, f, g, h] = view as [number, number, number, number, number, number, number, number]
  let within = 0
  for (let n = 0; n < places.count; n++) {
    const x = places.x[n]
    const y = places.y[n]
    const w = g * x + h * y + 1
    const px = ((a * x + b * y + c) / w) * width + width / 2 - 0.5
    const py = ((d * x + e * y + f) / w) * width + height / 2 - 0.5
    const is = px >= 0 && py >= 0 && px <= width - 1 && py <= height - 1
    inside[n] = is ? 1 : 0
    if (!is) continue
    seen[n] = sample(other, px, py)
    within++
  }
  return within
}

/** How much brighter all of it is: the line through what is seen over what stands, twice, without what lies far from the first. */
function lightOf(value: Float32Array, seen: Float32Array, inside: Uint8Array): { times: number; besides: number } {
  let line = { times: 1, besides: 0 }
  for (let round = 0; round < 2; round++) {
    let n = 0
    let sx = 0
    let sy = 0
    let sxx = 0
    let sxy = 0
    for (let k = 0; k < value.length; k++) {
      if (!inside[k]) continue
      const x = value[k]
      const y = seen[k]
      if (round > 0 && Math.abs(y - line.times * x - line.besides) > 24) continue
      n++
      sx += x
      sy += y
      sxx += x * x
      sxy += x * y
    }
    const spread = sxx - (sx * sx) / Math.max(1, n)
    const times = spread > 1e-6 ? (sxy - (sx * sy) / n) / spread : 1
    // Pictures that do not agree at all say nothing of the light.
    if (!(times > 0.5 && times < 2)) return { times: 1, besides: n > 0 ? (sy - sx) / n : 0 }
    line = { times, besides: (sy - times * sx) / n }
  }
  return line
}
