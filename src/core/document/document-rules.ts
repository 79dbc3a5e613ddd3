import { LARGEST_MEDIA, type Layer, type Loop, MAX_DEPTH, MAX_LAYERS, reaches, referencesOf } from './document'

type Refuse = (path: (string | number)[], message: string) => void

/** The rules that hold between the parts of a document: ids and names are there once, and name what there is. */
export function checkDocument(loop: Loop, refuse: Refuse) {
  const named = new Set(loop.palette.map(({ name }) => name))
  if (named.size < loop.palette.length) refuse(['palette'], 'two colours have one name')
  const inner = new Map(loop.loops.map((each) => [each.id, each]))
  if (inner.size < loop.loops.length) refuse(['loops'], 'two loops have one id')
  const pictures = new Set(loop.pictures.map((each) => each.id))
  checkTree(loop.layers, ['layers'], refuse)
  for (const [i, { layers }] of loop.loops.entries()) checkTree(layers, ['loops', i, 'layers'], refuse)
  const known = { loop: inner, picture: pictures, clip: new Set(loop.clips.map((each) => each.id)) }
  const within = (layers: readonly Layer[], path: (string | number)[]) => {
    for (const [i, layer] of layers.entries()) {
      for (const { property, to, id } of referencesOf(layer))
        if (!known[to].has(id))
          refuse([...path, i, 'values', property], `names a ${to} that the document does not hold`)
      within(layer.layers ?? [], [...path, i, 'layers'])
    }
  }
  within(loop.layers, ['layers'])
  for (const [i, { layers }] of loop.loops.entries()) within(layers, ['loops', i, 'layers'])
  const letters = [
    ...loop.pictures.map(({ data }) => data.length),
    ...loop.clips.flatMap(({ frames }) => frames.map((frame) => frame.length)),
  ].reduce((a, b) => a + b, 0)
  if ((letters * 3) / 4 > LARGEST_MEDIA)
    refuse(
      ['clips'],
      `hold, with the pictures, ${Math.round((letters * 3) / 4 / 1e6)} MB of files; up to ${Math.round(LARGEST_MEDIA / 1e6)} MB can be kept`,
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
