import { MAX_LENGTH, toNumber } from '../clock'
import { colourName } from '../colour'
import { mapColours } from './colours'
import { type InnerLoop, type Layer, type Loop, NO_BLUR, placedIn, reaches } from './document'
import { freeName, newId, newLayer } from './edit'
import { insertLayers } from './tree'

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
  const pictures = new Set(outer.pictures.map(({ id }) => id))
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
    motions: { time: running(nearestCycles(outer, definition)) },
  }
  const withParts = {
    ...outer,
    palette,
    loops,
    pictures: [...outer.pictures, ...inner.pictures.filter(({ id }) => !pictures.has(id))],
  }
  return { loop: insertLayers(withParts, [layer]), layer }
}

/** The motion of time of a placed loop that runs evenly so many times. */
export const running = (cycles: number): Layer['motions'][string] => ({
  keys: [
    { at: 0, value: 0, ease: 'linear' },
    { at: 1, value: 1, ease: 'linear' },
  ],
  after: 'accumulate',
  period: { cycles },
  phase: 0,
})

/** So many whole cycles of an inner loop fit an outer one best at the inner one's own pace. */
export function nearestCycles(outer: Pick<Loop, 'length' | 'rate'>, inner: Pick<InnerLoop, 'length' | 'rate'>): number {
  const times = outer.length / toNumber(outer.rate) / (inner.length / toNumber(inner.rate))
  return Math.min(MAX_LENGTH, Math.max(1, Math.round(times)))
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
  pictures: view.pictures,
  loops: view.loops.map((each) => (each.id === view.id ? innerOf(view) : each)),
})

/** The document without the loops and pictures that nothing shows any more. */
export function withoutUnused(loop: Loop): Loop {
  const loops = byId(loop.loops)
  const used = new Set(placedIn(loop.layers))
  for (const id of used) for (const further of placedIn(loops.get(id)?.layers ?? [])) used.add(further)
  const kept = loop.loops.filter(({ id }) => used.has(id))
  const shown = new Set([loop, ...kept].flatMap(({ layers }) => picturesIn(layers)))
  const pictures = loop.pictures.filter(({ id }) => shown.has(id))
  return kept.length === loop.loops.length && pictures.length === loop.pictures.length
    ? loop
    : { ...loop, loops: kept, pictures }
}

const picturesIn = (layers: readonly Layer[]): string[] =>
  layers.flatMap(({ kind, values, layers: held }) => [
    ...(kind === 'picture' ? [String(values.picture)] : []),
    ...picturesIn(held ?? []),
  ])
