import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { pictureInNode } from '../src/cli/decode'
import { readModel } from '../src/codecs/model'
import { fraction } from '../src/core/clock'
import type { Layer, Loop } from '../src/core/document'
import { addPart, modelLayer } from '../src/core/edit'
import type { Values } from '../src/core/layers'
import type { Model } from '../src/core/media'
import { evenly, type Motion } from '../src/core/motion'
import { measured } from '../src/core/solid'
import { demoLoop, keys, repeat, withPlainIds } from './parts'

const SIZE = { width: 960, height: 720 }
const rate = fraction(30)

/** A model of the demo, as a document names it. */
async function modelOf(id: string, name: string): Promise<Model> {
  const bytes = new Uint8Array(readFileSync(new URL(`./loops/assets/${id}.glb`, import.meta.url)))
  const { parts } = await readModel(`${id}.glb`, bytes, undefined, pictureInNode)
  const file = { id: createHash('sha256').update(bytes).digest('hex'), type: 'model/gltf-binary', bytes: bytes.length }
  return { kind: 'model', id, name, ...measured(parts), file }
}

async function turntable(
  id: string,
  name: string,
  length: number,
  background: string,
  values: Values,
  motions: Record<string, Motion>,
): Promise<Loop> {
  const model = await modelOf(id, name)
  const loop = demoLoop(id, name, { kind: 'turntable', ...SIZE, background, rate, length })
  const layer = modelLayer(model, SIZE)
  return { ...loop, media: [model], layers: [{ ...layer, values: { ...layer.values, ...values }, motions }] }
}

/** A buoy that turns in the middle of its frame, although its own origin lies beside it. */
export const mooringBuoy = async (): Promise<Loop> =>
  withPlainIds(await turntable('mooring-buoy', 'Mooring buoy', 120, '#dfe8ea', { above: 12 }, { turn: evenly(360) }))

/** A capstan that comes home after a sixth of a turn. */
export const capstan = async (): Promise<Loop> =>
  withPlainIds(
    await turntable(
      'capstan',
      'Capstan',
      30,
      '#f1e7d3',
      { around: 20, above: 30, ground: 'disc', groundColour: '#d9c9a8' },
      { turn: evenly(60) },
    ),
  )

/** A lamp that stands, whose lens turns by a panel and whose shutter opens and shuts. */
export async function signalLamp(): Promise<Loop> {
  const still = await turntable(
    'signal-lamp',
    'Signal lamp',
    72,
    '#0d2733',
    { around: 24, above: 10, keyColour: '#ffd9a0' },
    {},
  )
  const id = still.layers[0]?.id as string
  const lens = addPart(still, id, 'Lens')
  const both = lens && addPart(lens.loop, id, 'Shutter')
  if (!both) throw new Error('the lamp has a lens and a shutter')
  const moving = (layer: Layer): Layer =>
    layer.values.part === 'Lens'
      ? { ...layer, values: { ...layer.values, axis: 'y, upright', fold: 8 }, motions: { rotation: evenly(45) } }
      : {
          ...layer,
          motions: { y: repeat(keys('ease-in-out', [0, 0], [0.12, 0], [0.36, 0.4], [0.64, 0.4], [0.88, 0])) },
        }
  const layers = both.loop.layers.map((layer) => ({ ...layer, layers: layer.layers?.map(moving) ?? [] }))
  return withPlainIds({ ...both.loop, layers })
}
