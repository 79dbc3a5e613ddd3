import type { EffectNode } from '@/core/display'
import { mixed } from '@/core/effects'
import type { Picture } from '@/core/image'
import { layerKind } from '@/core/layers'
import type { Matrix } from '@/core/path'
import { effectDrawing } from '../effects'
import type { Brush, Context, NodePainter } from './painter'

function read(context: Context): Picture {
  const { width, height } = context.canvas
  const { data } = context.getImageData(0, 0, width, height)
  return { width, height, data }
}

function write(context: Context, { width, height, data }: Picture): void {
  const image = context.createImageData(width, height)
  image.data.set(data)
  context.putImageData(image, 0, 0)
}

type Child = EffectNode['children'][number]

/** Drawing of some of the children by themselves; null if there are none. */
function drawn(brush: Brush, like: Context, children: readonly Child[], transform: Matrix): Picture | null {
  if (children.length === 0) return null
  const surface = brush.takeSurface(like)
  for (const child of children) brush.draw(surface, child, transform)
  const picture = read(surface)
  brush.giveBack(surface)
  return picture
}

/** The pixels of a picture that is looked up in, read once. */
const tables = new WeakMap<object, Picture>()
function tableOf(brush: Brush, id: string | undefined): Picture | null {
  const source = id === undefined ? undefined : brush.pictures.get(id)
  if (!source) return null
  const known = tables.get(source)
  if (known) return known
  const { width, height } = source as { width: number; height: number }
  const surface = brush.makeSurface(width, height)
  surface.drawImage(source, 0, 0)
  const picture = read(surface)
  tables.set(source, picture)
  return picture
}

/** A mask that is opaque where it was clear. */
function turnedRound({ width, height, data }: Picture): Picture {
  const turned = new Uint8ClampedArray(data.length)
  for (let i = 3; i < data.length; i += 4) turned[i] = 255 - data[i]
  return { width, height, data: turned }
}

/** Applies the effect to everything painted on the surface until now. */
export const effectPainter: NodePainter<EffectNode> = {
  type: 'effect',
  paint: (brush, context, { effect, values, strength, inverse = false, table, children }, transform) => {
    const own = layerKind(effect).effect
    if (!own || strength <= 0) return
    const before = read(context)
    const first = children.filter(({ changesBehind }) => changesBehind)
    const others = drawn(
      brush,
      context,
      children.filter(({ changesBehind }) => !changesBehind),
      transform,
    )
    for (const child of first) brush.draw(context, child, transform)
    const behind = first.length > 0 ? read(context) : before
    const changed = effectDrawing(effect)(behind, values as never, {
      matrix: transform,
      map: own.heldIsMap ? others : null,
      table: tableOf(brush, table),
    })
    const mask = own.heldIsMap ? null : inverse && others ? turnedRound(others) : others
    if (changed !== before || strength < 1) write(context, mixed(before, changed, strength, mask))
  },
  hits: () => false,
}
