import { describe, expect, it, vi } from 'vitest'
import { unzipProject, zipProject } from '@/codecs'
import { formatLoop, type Loop, parseLoop } from '@/core/document'
import { newLayer, newLoop, withoutUnused } from '@/core/edit'
import { evaluate } from '@/core/evaluate'
import { assetsIn, madeAsset, partFile } from '@/core/media'
import { renderInNode } from '@/render/node'

/** A table of tides: a file beside the document that is no picture. */
vi.mock('@/core/media/all', async (original) => {
  const { MEDIUM_KINDS } = await original<typeof import('@/core/media/all')>()
  const { assetOf } = await import('@/core/media/asset')
  const { whole } = await import('@/core/schemas')
  const tides = {
    kind: 'tides',
    label: 'tide table',
    fields: { rows: whole(1, 1000), file: assetOf(10_000) },
    most: 2,
    assets: ({ file }: { file: unknown }) => [file],
  }
  return { MEDIUM_KINDS: [...MEDIUM_KINDS, tides] }
})

const clock = { rate: { num: 20, den: 1 }, length: 20 }
const harbour: Loop = {
  ...newLoop({ name: 'Harbour', kind: 'loader', width: 120, height: 120, background: '#0b2230', ...clock }, 'harbour'),
  layers: [newLayer('ellipse', 'Buoy', { x: 60, y: 60, width: 40, height: 40 })],
}

describe('a kind of medium that stands in the table alone', () => {
  it('is saved with its file, opened where that has never been, and let go with what shows it', async () => {
    const file = await madeAsset('text/csv', new TextEncoder().encode('high 04:12, low 10:31'))
    const tides = { kind: 'tides', id: 'june', name: 'June', rows: 2, file }
    const holding: Loop = { ...harbour, media: [tides] }
    expect(parseLoop(formatLoop(holding))).toEqual(holding)
    const archive = await zipProject(holding)
    expect(await unzipProject(archive)).toEqual(holding)
    expect(await partFile(file, 0).then((found) => found?.text())).toBe('high 04:12, low 10:31')
    expect(assetsIn(holding.media)).toEqual([file])
    expect(() => parseLoop(formatLoop({ ...holding, media: [{ ...tides, rows: 0 } as never] }))).toThrow(
      'media[0].rows',
    )
    const three = ['a', 'b', 'c'].map((id) => ({ ...tides, id }))
    expect(() => parseLoop(formatLoop({ ...holding, media: three }))).toThrow('more than 2 tide tables')
    expect(withoutUnused(holding).media).toEqual([])
    expect(renderInNode(evaluate(holding, 3)).data).toEqual(renderInNode(evaluate(harbour, 3)).data)
  })
})
