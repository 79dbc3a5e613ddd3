import { describe, expect, it } from 'vitest'
import { newLoop } from '@/core/edit'
import { keepAtHand, type Model, madeAsset } from '@/core/media'
import { type Measures, measured } from '@/core/solid'
import { testModel } from '@/core/testing/test-model'
import { readModel } from '.'
import { withModelsMeasured } from './measured-again'

/** A buoy: a pyramid of four sides, as OBJ. */
const BUOY = 'o Buoy\nv 0 2 0\nv 1 0 1\nv 1 0 -1\nv -1 0 -1\nv -1 0 1\nf 1 2 3\nf 1 3 4\nf 1 4 5\nf 1 5 2\nf 2 5 4 3\n'
const { glb, parts } = await readModel('buoy.obj', new TextEncoder().encode(BUOY))
const FILE = await madeAsset('model/gltf-binary', new Uint8Array(glb))
const TRUE: Measures = measured(parts)
const noPicture = () => Promise.reject(new Error('There is none.'))

const loopOf = (model: Model) => ({
  ...newLoop({
    name: 'Buoy',
    kind: 'turntable',
    width: 240,
    height: 180,
    background: null,
    rate: { num: 30, den: 1 },
    length: 60,
  }),
  media: [model],
})
const buoy: Model = { ...testModel(), name: 'Buoy', file: FILE, ...TRUE }
const again = async (model: Model) => (await withModelsMeasured(loopOf(model), noPicture)).media[0]

describe('what a document says of a model', () => {
  it('stays where its file shows the same', async () => expect(await again(buoy)).toEqual(buoy))

  const [whole, ...others] = TRUE.parts
  const lies: readonly (readonly [string, Partial<Measures>])[] = [
    ['its hull is a point', { hull: [0, 0, 0] }],
    ['it is a thousand times as large', { bounds: TRUE.bounds.map((side) => 1000 * side) }],
    ['its centre lies elsewhere', { centre: [5, 5, 5] }],
    ['it has no triangles', { triangles: 0 }],
    ['it has no parts', { parts: [] }],
    ['its parts have other names', { parts: TRUE.parts.map((part, i) => ({ ...part, name: `Part ${i}` })) }],
    ['it looks the same after a fifth of a turn', { folds: [1, 5, 1] }],
    ['it is round', { folds: [0, 0, 0] }],
    ['a part of it has another fold', { parts: whole ? [{ ...whole, folds: [3, 7, 1] }, ...others] : [] }],
  ]
  it.each(lies)('is replaced by what its file shows: %s', async (_, lie) => {
    expect({ ...buoy, ...lie }).not.toEqual(buoy)
    expect(await again({ ...buoy, ...lie })).toEqual(buoy)
  })

  it('has the fold that it has', () => expect(TRUE.folds).toEqual([1, 4, 1]))
  it('may promise less than there is', async () => {
    const modest = { ...buoy, folds: [1, 2, 1] as const }
    expect(await again(modest)).toEqual(modest)
  })
  it('stands alone where the file is not here, of which nothing is drawn then', async () =>
    expect(await again(testModel())).toEqual(testModel()))

  it('is refused where the file is no model', async () => {
    const noise = new TextEncoder().encode('no model at all')
    const file = await madeAsset('model/gltf-binary', noise)
    keepAtHand(new Map([[file.id, new Blob([noise])]]))
    await expect(again({ ...buoy, file })).rejects.toThrow('The model “Buoy” of the loop cannot be read. ')
  })
})
