import { assetsIn, MAX_MEDIA_BYTES, MEDIUM_KINDS } from '../media'
import { type Layer, type Loop, MAX_DEPTH, MAX_LAYERS, reaches, referencesOf } from './document'

type Refuse = (path: (string | number)[], message: string) => void

/** The rules that hold between the parts of a document: ids and names are there once, and name what there is. */
export function checkDocument(loop: Loop, refuse: Refuse) {
  const named = new Set(loop.palette.map(({ name }) => name))
  if (named.size < loop.palette.length) refuse(['palette'], 'two colours have one name')
  const inner = new Map(loop.loops.map((each) => [each.id, each]))
  if (inner.size < loop.loops.length) refuse(['loops'], 'two loops have one id')
  const media = new Map(loop.media.map((each) => [each.id, each.kind]))
  if (media.size < loop.media.length) refuse(['media'], 'two of them have one id')
  for (const { kind, label, most } of MEDIUM_KINDS)
    if (loop.media.filter((each) => each.kind === kind).length > most)
      refuse(['media'], `hold more than ${most} ${label}s`)
  checkTree(loop.layers, ['layers'], refuse)
  for (const [i, { layers }] of loop.loops.entries()) checkTree(layers, ['loops', i, 'layers'], refuse)
  const holds = (sort: string, id: string) => (sort === 'loop' ? inner.has(id) : media.get(id) === sort)
  const within = (layers: readonly Layer[], path: (string | number)[]) => {
    for (const [i, layer] of layers.entries()) {
      for (const { property, to, id } of referencesOf(layer))
        if (!holds(to, id)) refuse([...path, i, 'values', property], `names a ${to} that the document does not hold`)
      within(layer.layers ?? [], [...path, i, 'layers'])
    }
  }
  within(loop.layers, ['layers'])
  for (const [i, { layers }] of loop.loops.entries()) within(layers, ['loops', i, 'layers'])
  const bytes = assetsIn(loop.media).reduce((sum, asset) => sum + asset.bytes, 0)
  if (bytes > MAX_MEDIA_BYTES)
    refuse(
      ['media'],
      `hold ${Math.round(bytes / 1e6)} MB of files; up to ${Math.round(MAX_MEDIA_BYTES / 1e6)} MB can be kept`,
    )
  const around = loop.loops.find(({ id }) => reaches(id, id, inner))
  if (around) refuse(['loops'], `“${around.name}” is placed in itself`)
}

function checkTree(layers: readonly Layer[], at: (string | number)[], refuse: Refuse) {
  const seen = new Set<string>()
  const visit = (siblings: readonly Layer[], path: (string | number)[], depth: number) => {
    if (siblings.length > 0 && depth > MAX_DEPTH) refuse(path, `lies in more than ${MAX_DEPTH} groups`)
    for (const [i, layer] of siblings.entries()) {
      if (seen.has(layer.id)) refuse([...path, i, 'id'], 'another layer has this id')
      seen.add(layer.id)
      visit(layer.layers ?? [], [...path, i, 'layers'], depth + 1)
    }
  }
  visit(layers, at, 0)
  if (seen.size > MAX_LAYERS) refuse(at, `holds more than ${MAX_LAYERS} layers`)
}
