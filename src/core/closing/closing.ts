import { changeLayer, type InnerLoop, type Layer, type Loop, placedLoops, places, withColours } from '../document'
import { evaluateUnreduced, propertyAt, valuesAt } from '../evaluate'
import { equivalenceOf, judgedProperty, layerKind, type Property, type PropertyTable } from '../layers'
import { checkHome, type HomeReport, type Motion } from '../motion'
import { type SeenEnds, seenEnds } from './ends'
import { showsTheSame } from './likeness'
import { groupFold } from './spokes'

/** One motion of the loop with its report. */
export interface MotionReport extends HomeReport {
  readonly layer: Layer
  readonly name: string
  readonly property: Property
  readonly motion: Motion
  /** False where the layer or a group around it is hidden: nobody sees it. */
  readonly visible: boolean
  /** The placed loop that the motion is in; null where it is the loop's own. */
  readonly inside: Pick<InnerLoop, 'id' | 'name' | 'length'> | null
  /** True where it does not come home by itself, but a like layer stands where it stood: the picture is the same. */
  readonly exchanged: boolean
  /** Ends of a row of copies at which they are seen to leave or come in; null where none is. Then it is not home. */
  readonly ends: SeenEnds | null
  /** True where copies show the motion at several phases at once: it must then go on as it began to come home. */
  readonly staggered: boolean
}

/**
 * m of a property while the layer moves: a multiple of what it is at any time of the loop, since a shape that is
 * symmetric only now and then does not look the same after a part of a turn.
 */
function equivalenceOverLoop(layer: Layer, name: string, length: number): number | undefined {
  const property = layerKind(layer.kind).properties[name]
  if (!property || equivalenceOf(property, layer.values) === undefined) return undefined
  const byContent = layerKind(layer.kind).turning === name
  if (typeof property.equivalence === 'number' && !byContent) return property.equivalence
  const others = Object.keys(layer.motions).some((other) => other !== name)
  const samples = others ? Math.min(48, length) : 1
  let common = 0
  for (let i = 0; i < samples; i++) {
    const values = valuesAt(layer, (i * length) / samples, length)
    const m = byContent ? 360 / groupFold(layer, values) : equivalenceOf(property, values)
    if (m === undefined) return undefined
    const both = greaterMultiple(common, m)
    if (both === undefined) return undefined
    common = both
  }
  return common
}

/**
 * The greater of two lengths where it is a whole multiple of the other: a rectangle looks the same after 180°, and while it is a square after 90°. 0
 * counts as none.
 */
function greaterMultiple(a: number, b: number): number | undefined {
  const [low, high] = a < b ? [a, b] : [b, a]
  const times = high / low
  return low === 0 || Math.abs(times - Math.round(times)) < 1e-6 ? high : undefined
}

/** How the raw gap of a property is reduced where it comes home jointly with others: all carry the same multiple. */
function jointReduction(layer: Layer, name: string, length: number): ((gap: number) => number) | undefined {
  const { properties } = layerKind(layer.kind)
  const own = properties[name]
  if (!own?.jointly) return undefined
  const m = Number(own.equivalence)
  const companions = jointCompanions(properties, name, own.jointly)
  const multiples = companions.map((other) => {
    const [start, end] = [0, length].map((frame) => Number(propertyAt(layer, other, frame, length)))
    return Math.round(((end ?? 0) - (start ?? 0)) / m)
  })
  return (gap) => {
    const whole = Math.round(gap / m)
    return multiples.every((multiple) => multiple === whole) ? gap - whole * m : gap
  }
}

const jointCompanions = (properties: PropertyTable, name: string, jointly: string): string[] =>
  Object.entries(properties)
    .filter(([other, property]) => other !== name && property.jointly === jointly)
    .map(([other]) => other)

/**
 * Everything a motion is checked with.
 * @throws RangeError when there is no such motion
 */
export function checkedMotion(layer: Layer, name: string, length: number) {
  const property = layerKind(layer.kind).properties[name]
  const motion = layer.motions[name]
  if (!property || !motion) throw new RangeError(`${layer.name} has no motion of ${name}`)
  const moving = { ...judgedProperty(property, layer.values), equivalence: equivalenceOverLoop(layer, name, length) }
  const reduction = jointReduction(layer, name, length)
  return { property, motion, moving, reduction }
}

/** Layers are never changed in place, so a report holds as long as its layer does. */
const known = new WeakMap<Layer, Map<string, MotionReport>>()

/** Whether one motion of a layer comes home, in a loop of N frames. @throws RangeError when there is no such motion. */
export function checkMotion(layer: Layer, name: string, length: number, visible = true): MotionReport {
  const reports = known.get(layer) ?? new Map<string, MotionReport>()
  known.set(layer, reports)
  const key = `${name} ${length} ${visible}`
  const remembered = reports.get(key)
  if (remembered) return remembered
  const { property, motion, moving, reduction } = checkedMotion(layer, name, length)
  const checked = checkHome(motion, length, moving, reduction)
  // Properties that come home jointly are meant to move unevenly against each other: none of them hesitates alone.
  const hesitates = checked.hesitates && reduction === undefined && !motion.restMeant
  const report = {
    ...checked,
    hesitates,
    layer,
    name,
    property,
    motion,
    visible,
    inside: null,
    staggered: false,
    exchanged: false,
    ends: null,
  }
  reports.set(key, report)
  return report
}

const knownEnds = new WeakMap<readonly Layer[], Map<string, SeenEnds | null>>()

/** seenEnds, looked for once for as long as neither the layers nor the frame change. */
function endsOf(loop: Loop, layer: Layer): SeenEnds | null {
  const { layers, width, height, length } = loop
  const found = knownEnds.get(layers) ?? new Map<string, SeenEnds | null>()
  knownEnds.set(layers, found)
  const key = `${layer.id} ${width} ${height} ${length}`
  const known = found.get(key)
  if (known !== undefined) return known
  const ends = seenEnds(loop, layer)
  found.set(key, ends)
  return ends
}

/** One place, which copies that are seen to leave are away from home by. */
const ONE_PLACE = 1

function checkTree(loop: Loop): MotionReport[] {
  const { layers, length } = loop
  const reports: MotionReport[] = []
  for (const { layer, parents } of places(layers)) {
    const visible = ![layer, ...parents].some((each) => each.hidden)
    const staggered = parents.some(({ kind, values }) => layerKind(kind).repeats?.staggered(values))
    for (const name of Object.keys(layer.motions)) {
      const own = checkMotion(layer, name, length, visible)
      const ends = visible && own.home && name === layerKind(layer.kind).repeats?.along ? endsOf(loop, layer) : null
      const report = ends ? { ...own, home: false, gap: ONE_PLACE, ends } : own
      reports.push(staggered ? { ...report, staggered, home: report.home && report.goesOn } : report)
    }
  }
  return reports
}

const exchanging = new WeakMap<readonly Layer[], { loops: Loop['loops']; length: number; same: boolean }>()

/** Motions that are not home alone are so together where the closing frame shows what frame 0 shows: twins change places. */
function exchanges(loop: Loop, reports: MotionReport[]): MotionReport[] {
  // A motion that leaps, or leaves the frame in sight, may look alike at both ends of the loop: it jumps on its way.
  const sudden = ({ leap, ends }: MotionReport) => leap !== null || ends !== null
  const away = reports.filter((report) => report.visible && !report.home && !sudden(report))
  if (new Set(away.map(({ layer }) => layer)).size < 2) return reports
  const { layers, loops, length } = loop
  const known = exchanging.get(layers)
  const same =
    known?.loops === loops && known.length === length
      ? known.same
      : showsTheSame(evaluateUnreduced(loop, 0), evaluateUnreduced(loop, length))
  exchanging.set(layers, { loops, length, same })
  return same
    ? reports.map((report) => (away.includes(report) ? { ...report, home: true, exchanged: true } : report))
    : reports
}

/** The reports of all motions of a loop, in the order of its layers, and then of those in the loops that it places. */
export function checkMotions(loop: Loop): MotionReport[] {
  const plain = withColours(loop)
  const { layers, loops } = plain
  const reports = exchanges(plain, checkTree(plain))
  if (loops.length === 0) return reports
  const placed = new Set(placedLoops(layers))
  for (const id of placed)
    for (const inner of placedLoops(loops.find((each) => each.id === id)?.layers ?? [])) placed.add(inner)
  for (const inner of loops)
    if (placed.has(inner.id))
      reports.push(...checkTree({ ...plain, ...inner }).map((report) => ({ ...report, inside: inner })))
  return reports
}

/** The report of one motion, with what the whole loop makes of it. */
export const motionReport = (loop: Loop, layerId: string, name: string): MotionReport | undefined =>
  checkMotions(loop).find((report) => report.inside === null && report.layer.id === layerId && report.name === name)

/** Faults that an artist may call meant: a rest, or a sudden step. */
export type Meant = 'rest' | 'cut'
const MEANT = { rest: 'restMeant', cut: 'cutMeant' } as const satisfies Record<Meant, keyof Motion>

/** The loop with what is said of a motion: that its rest or its sudden step is meant, or not. */
export const withMeant = (loop: Loop, layerId: string, name: string, what: Meant, meant: boolean): Loop =>
  changeLayer(loop, layerId, (layer) => {
    const motion = layer.motions[name]
    if (!motion) return layer
    const { [MEANT[what]]: _was, ...rest } = motion
    return { ...layer, motions: { ...layer.motions, [name]: meant ? { ...rest, [MEANT[what]]: true } : rest } }
  })
