import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { formatLoop, type Loop } from '@/core/document'
import { begunLoop, excerptOf, newLayer } from '@/core/edit'
import { madeAsset, type StillPicture } from '@/core/media'
import { pierOf } from '@/core/testing/media'
import { currentLoop, openLoop, undo } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { copy, cut, drawingOf, layersIn, paste, pasted } from './clipboard'

const brief = { name: 'Quay', kind: 'loader', width: 480, height: 480, background: null } as const
const begun = (): Loop => begunLoop({ ...brief, rate: { num: 25, den: 1 }, length: 50 }, 'orbits')
/** The worker that reads archives, in this thread. */
vi.mock('@/workers/page/clients', () => ({
  importClient: () => ({
    ask: (work: (service: object) => unknown) =>
      work({
        loop: async (bytes: Uint8Array) => {
          const loop = await (await import('@/codecs/project')).unzipProject(bytes)
          const { assetsIn, filesOf } = await import('@/core/media')
          return { done: { loop, files: await filesOf(assetsIn(loop.media)) } }
        },
      }),
    end: () => {},
  }),
}))
/** The clipboard of the system, as far as it is open. */
const system = { text: '', open: true }
const clipboard = {
  writeText: async (text: string) => {
    if (!system.open) throw new Error('It is closed.')
    system.text = text
  },
  readText: async () => {
    if (!system.open) throw new Error('It is closed.')
    return system.text
  },
}
vi.stubGlobal('navigator', { clipboard })
const names = () => currentLoop()?.layers.map(({ name }) => name)

beforeEach(() => {
  system.text = ''
  system.open = true
  openLoop(begun())
  setSession({ selection: [], keys: [], property: null })
})
const select = (...wanted: string[]) =>
  setSession({
    selection: (currentLoop()?.layers ?? []).flatMap(({ id, name }) => (wanted.includes(name) ? [id] : [])),
  })

describe('a drawing of layers', () => {
  it('holds the layers themselves, whatever they are called', async () => {
    const odd = { ...newLayer('ellipse', '</metadata> & "Lamp" <svg>'), id: 'odd' }
    const excerpt = excerptOf({ ...begun(), layers: [odd, ...begun().layers] }, [
      'odd',
      ...begun().layers.map(({ id }) => id),
    ])
    const text = await drawingOf(excerpt)
    expect(text.startsWith('<svg')).toBe(true)
    expect(text.trimEnd().endsWith('</svg>')).toBe(true)
    expect(await layersIn(text)).toEqual(excerpt)
  })
  it('is none in another text, and damaged ones are refused', async () => {
    expect(await layersIn('')).toBeNull()
    expect(await layersIn('<svg></svg>')).toBeNull()
    const text = await drawingOf(
      excerptOf(
        begun(),
        begun().layers.map(({ id }) => id),
      ),
    )
    await expect(layersIn(text.replace('"version"', '"ersion"'))).rejects.toThrow()
  })
})

describe('layers that are copied', () => {
  it('lie in the clipboard of the system, and are pasted from there, selected', async () => {
    select('Lamp')
    await copy()
    expect(system.text).toContain('<svg')
    await paste()
    expect(names()).toEqual(['Orbit', 'Orbit', 'Orbit', 'Lamp', 'Lamp 2'])
    expect(useSession.getState().selection).toEqual([currentLoop()?.layers.at(-1)?.id])
    undo()
    expect(names()).toHaveLength(4)
  })
  it('are pasted in this page where the system keeps its clipboard closed', async () => {
    select('Lamp')
    system.open = false
    await copy()
    await pasted([], 'what another program copied before')
    expect(names()).toContain('Lamp 2')
  })
  it('are taken away when they are cut, and come back', async () => {
    select('Lamp')
    await cut()
    expect(names()).not.toContain('Lamp')
    openLoop({ ...begun(), layers: [] })
    await pasted([], system.text)
    expect(names()).toEqual(['Lamp'])
  })
  it('change nothing where there are none, or they are damaged', async () => {
    const before = formatLoop(currentLoop() as Loop)
    await copy()
    await pasted([], 'some words')
    await pasted([], '<svg><metadata id="cyclon-layers">{ no JSON</metadata></svg>')
    expect(formatLoop(currentLoop() as Loop)).toBe(before)
  })
})

describe('layers that show a file', () => {
  const showing = (medium: StillPicture): Loop => ({
    ...begun(),
    media: [medium],
    layers: [
      { ...newLayer('picture', 'Pier', { picture: medium.id }), id: 'pier-layer' },
      { ...newLayer('ellipse', 'Lamp'), id: 'lamp-layer' },
    ],
  })
  const png = Uint8Array.from(
    atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='),
    (letter) => letter.charCodeAt(0),
  )
  it('are whole in another browser: the file comes with them', async () => {
    openLoop(showing(pierOf({ file: await madeAsset('image/png', png) })))
    select('Pier', 'Lamp')
    await copy()
    // Another browser has nothing at hand.
    vi.resetModules()
    const there = await import('./clipboard')
    const { openLoop: openThere, currentLoop: loopThere } = await import('@/store/document')
    const media = await import('@/core/media')
    openThere({ ...begun(), layers: [] })
    await there.pasted([], system.text)
    const pasted = loopThere()
    expect(pasted?.layers.map(({ name }) => name)).toEqual(['Pier', 'Lamp'])
    const [asset] = media.assetsIn(pasted?.media ?? [])
    expect((await media.fileOf(asset?.id ?? ''))?.size).toBe(png.length)
  })
  it('are left out where it is nowhere, and the others are pasted', async () => {
    const { toast } = await import('sonner')
    const said = vi.spyOn(toast, 'error')
    // As where the file was too large for the clipboard.
    const text = `<svg><metadata id="cyclon-layers">${formatLoop(showing(pierOf()))}</metadata></svg>`
    openLoop({ ...begun(), layers: [] })
    await pasted([], text)
    expect(names()).toEqual(['Lamp'])
    expect(currentLoop()?.media).toEqual([])
    expect(said.mock.calls[0]?.[0]).toContain('“Pier” is not in this browser')
  })
})
