import type { Layer, Loop } from '../document'
import type { Picture } from '../image'
import { layerKind, PASSES } from '../layers'
import type { FileSettings } from './settings'

/** Passes of a whole picture; others are single layers, by their ids. */
export const WHOLE_PASSES = ['picture', 'colour', 'alpha'] as const

/** Passes of all models of a loop, each by its name behind this. */
const OF_MODELS = 'models: '
const modelPass = (pass: string): string | null => (pass.startsWith(OF_MODELS) ? pass.slice(OF_MODELS.length) : null)

const hasPasses = ({ kind }: Layer): boolean => 'pass' in layerKind(kind).properties
const showModels = (layers: readonly Layer[]): boolean =>
  layers.some((layer) => hasPasses(layer) || showModels(layer.layers ?? []))

const isWhole = (pass: string): boolean => (WHOLE_PASSES as readonly string[]).includes(pass)

/** File types for the pictures of a pass. */
export type PassFile = 'png' | 'png of 16 bits' | 'exr'

/** Passes of models that are measures. */
const MEASURES = ['depth', 'normals']
/** Passes of models that run evenly: 8 bits would show steps. The others hold flat colours, or what a screen shows. */
const EVEN = [...MEASURES, 'occlusion', 'shadow']

/** File type of a pass. */
export function fileOfPass(pass: string, { precision = '8 bits' }: Pick<FileSettings, 'precision'>): PassFile {
  const shown = modelPass(pass)
  if (precision === '8 bits' || shown === null || !EVEN.includes(shown)) return 'png'
  return precision !== '16 bits' && MEASURES.includes(shown) ? 'exr' : 'png of 16 bits'
}

/** Whether some passes can be written finer than in 8 bits. */
export const canBeFine = (passes: readonly string[]): boolean =>
  passes.some((pass) => EVEN.includes(modelPass(pass) ?? ''))

/** The folder of a pass in an archive: none where there is only one. */
export const passFolder = (passes: readonly string[], i: number): string =>
  passes.length > 1 ? `${String(i).padStart(2, '0')}-${passes[i]?.replace(/[^\p{L}\p{N}]+/gu, '-')}/` : ''

/** All passes of a loop: of the picture as a whole, of its models, then every layer and group by itself. */
export function passesOf(loop: Pick<Loop, 'layers'>): { readonly pass: string; readonly label: string }[] {
  const inside = (layers: readonly Layer[], depth: number): { pass: string; label: string }[] =>
    layers.flatMap((layer) => [
      { pass: layer.id, label: `${'– '.repeat(depth)}${layer.name}` },
      ...inside(layer.layers ?? [], depth + 1),
    ])
  const ofModels = showModels(loop.layers) ? PASSES.map((pass) => `${OF_MODELS}${pass}`) : []
  return [...[...WHOLE_PASSES, ...ofModels].map((pass) => ({ pass, label: pass })), ...inside(loop.layers, 0)]
}

/** Settings that were made for another loop, as this one can have them: only passes that it has, only a thinning that divides it. */
export function settingsFor(loop: Pick<Loop, 'layers' | 'length'>, settings: FileSettings): FileSettings {
  const there = new Set(passesOf(loop).map(({ pass }) => pass))
  const passes = settings.passes.filter((pass) => there.has(pass))
  const every = loop.length % settings.every === 0 ? settings.every : 1
  if (passes.length === settings.passes.length && every === settings.every) return settings
  return { ...settings, every, passes: passes.length > 0 ? passes : ['picture'] }
}

/** A layer by itself, inside of what holds and masks it; null where it is not there. */
function only(layers: readonly Layer[], id: string): Layer | null {
  for (const layer of layers) {
    if (layer.id === id) return layer
    const inside = layer.layers && only(layer.layers, id)
    if (!inside) continue
    const mask = layerKind(layer.kind).mask?.cuts(layer.values) ? layer.layers?.at(-1) : undefined
    return { ...layer, layers: mask && mask.id !== inside.id ? [inside, mask] : [inside] }
  }
  return null
}

/** The models among layers, in what holds them, all showing one of their passes on nothing; what lay over them for that is left out. */
function modelsShowing(layers: readonly Layer[], pass: string): Layer[] {
  return layers.flatMap((layer): Layer[] => {
    if (hasPasses(layer))
      return layer.values.pass === 'colour'
        ? [
            {
              ...layer,
              values: { ...layer.values, pass, blend: 'normal', ground: pass === 'shadow' ? 'shadow only' : 'none' },
            },
          ]
        : []
    const inside = modelsShowing(layer.layers ?? [], pass)
    return inside.length > 0 ? [{ ...layer, layers: inside }] : []
  })
}

/** The loop that is drawn for a pass: a layer by itself lies on nothing. A layer that is gone leaves an empty picture. */
export function loopOfPass(loop: Loop, pass: string): Loop {
  if (isWhole(pass)) return loop
  const shown = modelPass(pass)
  if (shown !== null) return { ...loop, background: null, layers: modelsShowing(loop.layers, shown) }
  const layer = only(loop.layers, pass)
  return { ...loop, background: null, layers: layer ? [layer] : [] }
}

/** The picture of a pass: the colours of a drawn picture without alpha, or its alpha as grey. */
export function pictureOfPass(picture: Picture, pass: string): Picture {
  if (pass !== 'colour' && pass !== 'alpha') return picture
  const data = picture.data.slice()
  for (let i = 0; i < data.length; i += 4) {
    if (pass === 'alpha') data.fill(data[i + 3] as number, i, i + 3)
    data[i + 3] = 255
  }
  return { ...picture, data }
}
