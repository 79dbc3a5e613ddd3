import { toNumber } from '../clock'
import { nearestCycles } from '../closing'
import { colourName } from '../colour'
import {
  type InnerLoop,
  insertLayers,
  type Layer,
  type Loop,
  mapColours,
  NO_BLUR,
  namedIn,
  placedLoops,
  reaches,
} from '../document'
import { newId } from '../id'
import { type Clip, clipSeconds, MEDIUM_KINDS } from '../media'
import { evenly } from '../motion'
import { copyLayer, freeName, newLayer } from './edit'

/** The part of a loop that is kept where it is placed. */
const innerOf = ({ id, name, width, height, background, rate, length, layers }: Loop | InnerLoop): InnerLoop => ({
  id,
  name,
  width,
  height,
  background,
  rate,
  length,
  layers,
})

const byId = (loops: readonly InnerLoop[]) => new Map(loops.map((each) => [each.id, each]))

/** A loop whose named colours mean the same in another document; those that mean another thing there are spelt out. */
function withColoursOf(inner: Loop, outer: Loop): { loop: Loop; palette: Loop['palette'] } {
  const taken = new Map(outer.palette.map(({ name, colour }) => [name, colour]))
  const own = new Map(inner.palette.map(({ name, colour }) => [name, colour]))
  const clashes = (name: string) => taken.has(name) && taken.get(name) !== own.get(name)
  const map = (text: string) => {
    const name = colourName(text)
    return name !== null && clashes(name) ? (own.get(name) ?? text) : text
  }
  const each = <T extends Pick<InnerLoop, 'layers' | 'background'>>(part: T): T => ({
    ...part,
    background: part.background && map(part.background),
    layers: part.layers.map((layer) => mapColours(layer, map)),
  })
  const added = inner.palette.filter(({ name }) => !taken.has(name))
  return { loop: { ...each(inner), loops: inner.loops.map(each) }, palette: [...outer.palette, ...added] }
}

/**
 * The loop with another one placed in the middle of it as a layer, running as many whole cycles as come nearest to its
 * own pace. Placed again, the one that is there already is used: all its places show the same.
 * @param inside id of the loop of the document that is being edited; null for the document's own
 * @throws RangeError where the loop would then be placed in itself.
 */
export function placeLoop(outer: Loop, inner: Loop, inside: string | null = null): { loop: Loop; layer: Layer } {
  const host = inside ?? outer.id
  const { loop: coloured, palette } = withColoursOf(inner, outer)
  const known = byId(outer.loops)
  const brought = [innerOf(coloured), ...coloured.loops].filter(({ id }) => !known.has(id))
  const loops = [...outer.loops, ...brought]
  if (inner.id === host || reaches(inner.id, host, byId(loops)))
    throw new RangeError(`“${inner.name}” cannot be placed here: it would be placed in itself.`)
  const definition = byId(loops).get(inner.id) ?? innerOf(inner)
  const scale = Math.min(1, outer.width / definition.width, outer.height / definition.height)
  const layer: Layer = {
    ...newLayer(
      'loop',
      freeName(outer, definition.name),
      {
        loop: definition.id,
        x: outer.width / 2,
        y: outer.height / 2,
        width: definition.width * scale,
        height: definition.height * scale,
      },
      newId(),
    ),
    motions: { time: evenly(1, nearestCycles(outer, secondsOf(definition))) },
  }
  const withParts = {
    ...outer,
    palette,
    loops,
    media: withNew(outer.media, inner.media),
  }
  return { loop: insertLayers(withParts, [layer]), layer }
}

function withNew<T extends { readonly id: string }>(held: readonly T[], brought: readonly T[]): readonly T[] {
  const known = new Set(held.map(({ id }) => id))
  return [...held, ...brought.filter(({ id }) => !known.has(id))]
}

/** Pace at which something of the given duration runs where it is placed: 1 as made, 0.96 a little slower. */
export function paceOf(outer: Pick<Loop, 'length' | 'rate'>, seconds: number): number {
  const cycle = outer.length / toNumber(outer.rate) / nearestCycles(outer, seconds)
  return seconds / cycle
}

/** The pace in words; empty where it is its own. */
export function paceWords(pace: number): string {
  if (Math.abs(pace - 1) < 5e-4) return ''
  return `It runs at ${Number((100 * pace).toFixed(1))} % of its own pace here, so that whole cycles fit; Fit shows the lengths at which it keeps it.`
}

/** How long one cycle of a placed loop lasts at its own pace, s. */
export const secondsOf = ({ length, rate }: Pick<InnerLoop, 'length' | 'rate'>): number => length / toNumber(rate)

/** The loop with a clip in its middle as a layer, running as many whole cycles as come nearest to its own pace. */
export function placeClip(loop: Loop, clip: Clip): { loop: Loop; layer: Layer } {
  const scale = Math.min(1, loop.width / clip.width, loop.height / clip.height)
  const layer: Layer = {
    ...newLayer('clip', freeName(loop, clip.name), {
      clip: clip.id,
      x: loop.width / 2,
      y: loop.height / 2,
      width: clip.width * scale,
      height: clip.height * scale,
    }),
    motions: { time: evenly(1, nearestCycles(loop, Math.max(1e-3, clipSeconds(clip)))) },
  }
  return { loop: insertLayers({ ...loop, media: [...loop.media, clip] }, [layer]), layer }
}

/** A loop of the document, to be worked on as a document of its own; it shares colours, pictures and placed loops. */
export function innerView(loop: Loop, id: string): Loop | null {
  const inner = loop.loops.find((each) => each.id === id)
  if (!inner) return null
  const { variantOf: _none, ...root } = loop
  return { ...root, ...inner, blur: NO_BLUR }
}

/** The document with one of its loops as it was changed in its view. */
export const withInner = (loop: Loop, view: Loop): Loop => ({
  ...loop,
  palette: view.palette,
  media: view.media,
  loops: view.loops.map((each) => (each.id === view.id ? innerOf(view) : each)),
})

/** The document without the loops, pictures and clips that nothing shows any more. */
export function withoutUnused(loop: Loop): Loop {
  const loops = byId(loop.loops)
  const used = new Set(placedLoops(loop.layers))
  for (const id of used) for (const further of placedLoops(loops.get(id)?.layers ?? [])) used.add(further)
  const kept = loop.loops.filter(({ id }) => used.has(id))
  const shown = new Set(
    [loop, ...kept].flatMap(({ layers }) => MEDIUM_KINDS.flatMap(({ kind }) => namedIn(layers, kind))),
  )
  const media = loop.media.filter(({ id }) => shown.has(id))
  const less = kept.length < loop.loops.length || media.length < loop.media.length
  return less ? { ...loop, loops: kept, media } : loop
}

/** Layers of a loop by themselves, in the order in which they lie: a loop that holds nothing else, to be pasted from. */
export function excerptOf(loop: Loop, ids: readonly string[]): Loop {
  const wanted = new Set(ids)
  const pick = (layers: readonly Layer[]): Layer[] =>
    layers.flatMap((layer) => (wanted.has(layer.id) ? [layer] : layer.layers ? pick(layer.layers) : []))
  const { variantOf: _none, ...own } = loop
  return withoutUnused({ ...own, layers: pick(loop.layers) })
}

/**
 * The loop with the layers of another in front of all, with fresh ids and all that they show; returns the ids of what was pasted. Cycles stay what they are: what came home comes
 * home.
 * @param inside id of the loop of the document that is being edited; null for the document's own
 * @throws RangeError where a loop would then be placed in itself
 */
export function pasteLayers(loop: Loop, excerpt: Loop, inside: string | null = null): { loop: Loop; ids: string[] } {
  const { loop: coloured, palette } = withColoursOf(excerpt, loop)
  const known = byId(loop.loops)
  const loops = [...loop.loops, ...coloured.loops.filter(({ id }) => !known.has(id))]
  const host = inside ?? loop.id
  for (const id of placedLoops(coloured.layers))
    if (id === host || reaches(id, host, byId(loops)))
      throw new RangeError('A loop cannot be pasted into itself: it would be placed in itself.')
  let pasted: Loop = { ...loop, palette, loops, media: withNew(loop.media, excerpt.media) }
  const ids: string[] = []
  for (const layer of coloured.layers) {
    const copy = { ...copyLayer(layer), name: freeName(pasted, layer.name) }
    ids.push(copy.id)
    pasted = insertLayers(pasted, [copy])
  }
  return { loop: pasted, ids }
}
